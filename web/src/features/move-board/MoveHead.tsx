import { useStore } from "zustand";
import { keyHere } from "../../acts/moving";
import { Tick } from "../../shared/Tick";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { view } from "../../stores/view";

/** The edited mount, and whether each change sets a key. */
export function MoveHead({ name }: { name: string }) {
  const keyEveryChange = useStore(view, (state) => state.keyEveryChange);
  const frame = usePausedFrame();
  return (
    <div className="flex items-center gap-2">
      <h2 className="cond min-w-0 truncate font-semibold text-[15px]" title={name}>
        {name}
      </h2>
      <span className="num text-(--graphite) text-xs">frame {frame}</span>
      <Tick
        title="key every change"
        hint="Every change sets a key, even on numbers without keys"
        on={keyEveryChange}
        onChange={(on) => view.setState({ keyEveryChange: on })}
        className="cond ml-auto text-xs"
      />
      <button type="button" className="btn btn-xs" title="A key on all six axes here (K)" onClick={keyHere}>
        Set key
      </button>
    </div>
  );
}
