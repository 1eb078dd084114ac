import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { client, take } from "../../api/client";
import type { ShotCard as Card, Scribble } from "../../api/types";
import { prepare } from "../../shared/canvas";
import { traceLine } from "../../shared/traceLine";

const WIDTH_PX = 120;
const HEIGHT_PX = 78;

/** Signed bytes in base64, pan and tilt in turn. */
function points(text: string): Float32Array {
  const bytes = Uint8Array.from(atob(text), (each) => each.charCodeAt(0));
  return Float32Array.from(new Int8Array(bytes.buffer));
}

/** The shot's cached scribble; requested when it must be computed. */
export function ShotTrace({ shot }: { shot: Card }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const params = { path: { shot: shot.id } };
  const fresh = useQuery({
    queryKey: ["scribble", shot.id, shot.updated_at],
    queryFn: () => take<Scribble>(client.GET("/api/shots/{shot}/scribble", { params })),
    enabled: shot.scribble === null,
  });
  const text = shot.scribble ?? fresh.data?.scribble;
  useEffect(() => {
    const context = ref.current && prepare(ref.current, WIDTH_PX, HEIGHT_PX);
    const data = text === undefined ? null : { tag: "", columns: 2, data: points(text) };
    if (context) traceLine(context, data, WIDTH_PX, HEIGHT_PX);
  }, [text]);
  return (
    <canvas
      ref={ref}
      role="img"
      aria-label={`Scribble of ${shot.name}`}
      data-drawn={text === undefined ? "no" : "yes"}
      style={{ width: WIDTH_PX, height: HEIGHT_PX }}
      className="shrink-0 rounded-sm bg-base-100"
    />
  );
}
