/** Display of set pieces: shown, as a box, hidden; the subject tinted. */
import {
  Box3,
  BoxGeometry,
  EdgesGeometry,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshLambertMaterial,
  type Object3D,
  Vector3,
} from "three";
import type { PieceLook } from "../../stores/view";

const BOX = "stand-in box";
const TINT = "#2F4B8F";

/** Shows, boxes or hides the pieces at the top of a set. */
export function applyLooks(root: Object3D, looks: Record<string, PieceLook>): void {
  for (const piece of root.children) {
    if (piece.name.startsWith(BOX)) continue;
    const look = looks[pieceName(piece)] ?? "shown";
    piece.visible = look === "shown";
    const known = root.children.find((each) => each.name === `${BOX} ${piece.name}`);
    if (look === "box" && !known) root.add(boxOf(piece));
    if (known) known.visible = look === "box";
  }
}

/** The name as the file has it: the loader writes spaces as underscores. */
export function pieceName(piece: Object3D): string {
  return typeof piece.userData.name === "string" ? piece.userData.name : piece.name;
}

/** Names of the pieces at the top of a set. */
export function piecesOf(root: Object3D): string[] {
  return root.children.filter((piece) => !piece.name.startsWith(BOX)).map(pieceName);
}

/** Lets one object glow a little, and no other. */
export function tint(root: Object3D, name: string | null): void {
  root.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    let inside = false;
    for (let at: Object3D | null = object; at && name; at = at.parent) inside ||= pieceName(at) === name;
    object.userData.plain ??= object.material;
    const plain: unknown = object.userData.plain;
    if (!inside || !(plain instanceof MeshLambertMaterial)) {
      object.material = object.userData.plain;
      return;
    }
    object.userData.glowing ??= plain.clone();
    const glowing: MeshLambertMaterial = object.userData.glowing;
    glowing.emissive.set(TINT);
    glowing.emissiveIntensity = 0.4;
    object.material = glowing;
  });
}

function boxOf(piece: Object3D): LineSegments {
  const bounds = new Box3().setFromObject(piece);
  const size = bounds.getSize(new Vector3());
  const box = new LineSegments(
    new EdgesGeometry(new BoxGeometry(size.x, size.y, size.z)),
    new LineBasicMaterial({ color: "#C9C7C0" }),
  );
  box.position.copy(bounds.getCenter(new Vector3()));
  box.name = `${BOX} ${piece.name}`;
  return box;
}

/** Lets go of the boxes and of the glow that were made for a set. */
export function forgetLooks(root: Object3D): void {
  for (const box of root.children.filter((piece) => piece.name.startsWith(BOX))) {
    root.remove(box);
    if (!(box instanceof LineSegments)) continue;
    box.geometry.dispose();
    (box.material as LineBasicMaterial).dispose();
  }
  root.traverse((object) => {
    const glowing: unknown = object.userData.glowing;
    if (glowing instanceof MeshLambertMaterial) glowing.dispose();
    delete object.userData.glowing;
  });
}
