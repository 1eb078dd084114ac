import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api/client";
import type { ShotCard, State } from "../../api/types";
import { flipSide } from "../../stores/sides";
import { view } from "../../stores/view";

/** Shows another shot of the project next to this one, if both use the same set. */
export function OtherShots({ state }: { state: State }) {
  const params = { path: { slug: state.project_slug } };
  const { data } = useQuery({
    queryKey: ["shots", state.project_slug, state.id],
    queryFn: () => take<ShotCard[]>(client.GET("/api/projects/{slug}/shots", { params })),
  });
  const otherShots = (data ?? []).filter(({ id, problem }) => id !== state.id && !problem);
  const set = state.document.set_id ?? null;
  const show = (slug: string) => {
    const one = otherShots.find((each) => each.slug === slug);
    if (!one) return;
    flipSide({ key: `shot:${one.id}`, title: one.name, shot: one.slug });
    view.setState({ dialog: null });
  };
  return (
    <label className="flex items-center gap-3 text-sm">
      Compare with
      <select className="select select-sm w-64" value="" onChange={(event) => show(event.target.value)}>
        <option value="">another shot of this project …</option>
        {otherShots.map(({ slug, name, set_id }) => (
          <option key={slug} value={slug} disabled={set_id !== set}>
            {name}
            {set_id === set ? "" : " (in another set)"}
          </option>
        ))}
      </select>
    </label>
  );
}
