/** Objects of the scene, posed for a moment: the displayed frame, or a moment of a movie. */

/** A moment: the frame of the shot, and rows of numbers by name (`bare`, `plate:ID`), where they begin. */
export type Moment = {
  frame: number;
  row: (name: string) => { data: Float32Array; at: number } | null;
};

const posers = new Set<(moment: Moment) => void>();

/** Has something posed for every moment of a movie; answers with what ends that. */
export function onMoment(pose: (moment: Moment) => void): () => void {
  posers.add(pose);
  return () => posers.delete(pose);
}

export function poseScene(moment: Moment): void {
  for (const pose of posers) pose(moment);
}
