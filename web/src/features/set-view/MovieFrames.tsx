import { useThree } from "@react-three/fiber";
import { useEffect } from "react";
import { registerFrameRenderer } from "../../stores/movie";
import { FrameMaker } from "./frameMaker";

/** Makes frames of movies from the scene, off screen. */
export function MovieFrames() {
  const { gl, scene, invalidate } = useThree();
  useEffect(() => {
    registerFrameRenderer((movie) =>
      gl.getContext().isContextLost() ? null : new FrameMaker(gl, scene, movie, invalidate),
    );
    return () => registerFrameRenderer(null);
  }, [gl, scene, invalidate]);
  return null;
}
