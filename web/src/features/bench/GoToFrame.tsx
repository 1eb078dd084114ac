import { useEffect, useRef, useState } from "react";
import { client, explain, take } from "../../api/client";
import type { Typed } from "../../api/types";
import { useFault } from "../../shared/number";
import { openShot } from "../../stores/openShot";
import { pause, seek, transport } from "../../stores/transport";
import { view } from "../../stores/view";

const close = () => view.setState({ goingTo: false });

/** Where to go, as it is typed: a frame, so many on, a time, the name of a cue. The server reads it. */
export function GoToFrame() {
  const [text, setText] = useState(String(transport.getState().frame));
  const [wrong, setWrong] = useState("");
  const { note, anchored } = useFault(wrong);
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => box.current?.select(), []);
  const go = async () => {
    const { state } = openShot.getState();
    if (!state) return;
    try {
      const body = { text, shot: state.slug, frame: transport.getState().frame };
      const { value, fault } = await take<Typed>(client.POST("/api/arithmetic/frame", { body }));
      if (value === null) {
        setWrong(fault ?? "this is no frame");
        return;
      }
      pause();
      seek(value);
      close();
    } catch (error) {
      setWrong(explain(error));
    }
  };
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
          setWrong("");
        }}
        onBlur={close}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === "Enter") void go();
          if (event.key === "Escape") close();
        }}
      />
      {note}
    </>
  );
}
