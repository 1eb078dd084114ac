import { Group, type Object3D } from "three";
import { type GLTF, GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

/** Reads a set. A file without a default scene shows all of its nodes. */
export class SetLoader extends GLTFLoader {
  override load(...[url, onLoad, onProgress, onError]: Parameters<GLTFLoader["load"]>): void {
    const onGltf = (gltf: GLTF) => void withScene(gltf).then(onLoad, onError);
    super.load(url, onGltf, onProgress, onError);
  }
}

async function withScene(gltf: GLTF): Promise<GLTF> {
  if (gltf.scene) return gltf;
  const nodes: Object3D[] = await gltf.parser.getDependencies("node");
  const scene = new Group();
  // Child nodes are included with their parents.
  scene.add(...nodes.filter((node) => !node.parent));
  return { ...gltf, scene, scenes: [scene] };
}
