import { Group, type Object3D } from "three";
import { type GLTF, GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

/** Reads a set. A file need not say what its scene is: then all of its nodes are. */
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
  // What hangs under another node has come with it.
  scene.add(...nodes.filter((node) => !node.parent));
  return { ...gltf, scene, scenes: [scene] };
}
