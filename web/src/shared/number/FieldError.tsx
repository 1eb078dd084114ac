import { useId } from "react";

/** The error of a typed text: a note below its box, on top of everything, so that no panel clips it. `anchored` goes to the box. */
export function useFault(text: string) {
  const anchor = `--fault-${useId().replace(/\W/g, "")}`;
  const note = text ? <FieldError anchor={anchor} text={text} /> : null;
  return { note, anchored: { anchorName: anchor } as React.CSSProperties };
}

function FieldError({ anchor, text }: { anchor: string; text: string }) {
  return (
    <div
      popover="manual"
      role="alert"
      ref={(element) => {
        if (element && !element.matches(":popover-open")) element.showPopover();
      }}
      className="max-w-72 rounded-sm border border-error bg-base-100 px-2 py-1 text-left text-base-content text-xs shadow-md"
      style={
        {
          positionAnchor: anchor,
          positionArea: "bottom span-left",
          positionTryFallbacks: "flip-block, flip-inline",
          inset: "auto",
          margin: "4px 0",
        } as React.CSSProperties
      }
    >
      {text}
    </div>
  );
}
