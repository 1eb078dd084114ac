import { ChevronDown } from "lucide-react";
import { useStore } from "zustand";
import { addVariant, type VariantEntry } from "../../acts/variants";
import type { State } from "../../api/types";
import { Menu, type MenuItem } from "../../shared/Menu";
import { showVariant } from "../../stores/editing";
import { flipSide, sideOf, sides } from "../../stores/sides";
import { view } from "../../stores/view";

/** In the head: which variant is shown; the others, a new one, and all that is done with them. */
export function VariantMenu({ state }: { state: State }) {
  const { variants, main } = state.document;
  const shownSides = useStore(sides, (each) => each.shown);
  const here = variants.find(({ id }) => id === state.variant);
  const switches = variants.map(
    (each, n): MenuItem => ({
      id: each.id,
      content: <Entry variant={each} n={n} shown={each.id === state.variant} main={each.id === main} />,
      run: () => void showVariant(each.id),
    }),
  );
  const compare = variants
    .filter(({ id }) => id !== state.variant)
    .map(({ id, name }): MenuItem => {
      const on = shownSides.some(({ key }) => key === sideOf({ id, name }).key);
      return {
        id: `beside-${id}`,
        content: (
          <span className="cond">
            {on ? "✓ " : ""}Compare with {name}
          </span>
        ),
        run: () => flipSide(sideOf({ id, name })),
      };
    });
  return (
    <Menu
      label={`Variant: ${here?.name ?? ""}`}
      button={
        <>
          <span className="cond max-w-20 truncate">{here?.name}</span>
          <ChevronDown size={13} className="shrink-0" />
        </>
      }
      buttonClass="btn btn-sm min-w-0 shrink-0 gap-1 px-2 font-normal"
      lets
      listClass="w-64 bg-base-200 text-sm"
      items={[
        ...switches,
        { id: "new", content: <span className="cond">New variant, as this one</span>, run: addVariant },
        {
          id: "all",
          content: <span className="cond">Names, notes, order …</span>,
          run: () => view.setState({ dialog: "variants" }),
        },
        ...compare,
      ]}
    />
  );
}

function Entry({ variant, n, shown, main }: { variant: VariantEntry; n: number; shown: boolean; main: boolean }) {
  return (
    <span className="flex items-center gap-2" title={variant.note || undefined}>
      <span className="w-3" aria-hidden="true">
        {shown ? "●" : ""}
      </span>
      <span className={`cond min-w-0 flex-1 truncate ${shown ? "font-semibold" : ""}`}>{variant.name}</span>
      {main && <span className="text-xs">main</span>}
      <kbd className="num rounded-sm border border-base-300 px-1 text-xs">{n + 1}</kbd>
    </span>
  );
}
