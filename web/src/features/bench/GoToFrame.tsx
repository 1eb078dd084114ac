import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { client, explain, take } from "../../api/client";
import type { Typed } from "../../api/types";
import { useFault } from "../../shared/number";
import { openShot } from "../../stores/openShot";
import { pause, seek, transport } from "../../stores/transport";
import { view } from "../../stores/view";

const NO_FRAME = "this is no frame";

const close = () => view.setState({ goingTo: false });

/** The destination as typed: a frame, an offset, a time, the name of a cue. The server reads it. */
export function GoToFrame() {
  const [text, setText] = useState(String(transport.getState().frame));
  const shot = useStore(openShot, (each) => each.state?.slug);
  const parsedFrame = useMutation({
    mutationFn: (body: { text: string; shot: string; frame: number }) =>
      take<Typed>(client.POST("/api/arithmetic/frame", { body })),
    onSuccess: ({ value }) => {
      if (value === null) return;
      pause();
      seek(value);
      close();
    },
  });
  const wrong = parsedFrame.error
    ? explain(parsedFrame.error)
    : parsedFrame.data?.value === null
      ? (parsedFrame.data.fault ?? NO_FRAME)
      : "";
  const { note, anchored } = useFault(wrong);
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => box.current?.select(), []);
  const go = () => shot && parsedFrame.mutate({ text, shot, frame: transport.getState().frame });
  return (
    <>
      <input
        ref={box}
        aria-label="Frame to go to"
        aria-invalid={wrong !== ""}
        style={anchored}
        className="w-20 rounded-sm border border-primary bg-base-100 px-1 text-base-content"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          parsedFrame.reset();
        }}
        onBlur={close}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") go();
          if (event.key === "Escape") close();
        }}
      />
      {note}
    </>
  );
}
