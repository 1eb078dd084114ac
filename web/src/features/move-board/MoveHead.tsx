import { useStore } from "zustand";
import { usePausedFrame } from "../../shared/usePausedFrame";
import { view } from "../../stores/view";
import { keyHere } from "./commands";

/** Where the move is worked on, and whether each change sets a key. */
export function MoveHead({ name }: { name: string }) {
  const keyEveryChange = useStore(view, (state) => state.keyEveryChange);
  const frame = usePausedFrame();
  return (
    <div className="flex items-center gap-2">
      <h2 className="cond min-w-0 truncate font-semibold text-[15px]" title={name}>
        {name}
      </h2>
      <span className="num text-(--graphite) text-xs">frame {frame}</span>
      <label
        className="cond ml-auto flex items-center gap-1 text-xs"
        title="Every change sets a key, on numbers without keys too"
      >
        <input
          type="checkbox"
          className="checkbox checkbox-xs h-3 w-3 rounded-[2px] p-0"
          checked={keyEveryChange}
          onChange={(event) => view.setState({ keyEveryChange: event.target.checked })}
        />
        key every change
      </label>
      <button type="button" className="btn btn-xs" title="A key on all six axes here (K)" onClick={keyHere}>
        Set key
      </button>
    </div>
  );
}
