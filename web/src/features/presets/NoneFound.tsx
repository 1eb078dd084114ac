import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api/client";
import type { PresetEntry } from "../../api/types";
import { search } from "./sheetStore";

type NoneFoundProps = { list: PresetEntry[]; words: string; tags: string[] };

/** Message for a search without results: the nearest presets, shown with a click. */
export function NoneFound({ list, words, tags }: NoneFoundProps) {
  const { data } = useQuery({
    queryKey: ["nearest", words],
    queryFn: () => take<{ keys: string[] }>(client.GET("/api/presets/nearest", { params: { query: { words } } })),
    enabled: words.trim() !== "",
  });
  const nearest = (data?.keys ?? []).flatMap((key) => list.find((entry) => entry.key === key)?.preset?.name ?? []);
  return (
    <div className="flex flex-col gap-2 p-4 text-sm">
      <p>
        No preset has “{[words, ...tags].filter(Boolean).join(" ")}”.{" "}
        <button type="button" className="link" onClick={() => search.setState({ words: "", tags: [] })}>
          Show all
        </button>
      </p>
      {nearest.length > 0 && (
        <p className="flex flex-wrap items-center gap-1">
          Nearest:
          {nearest.map((name) => (
            <button
              key={name}
              type="button"
              className="btn btn-xs"
              onClick={() => search.setState({ words: name, tags: [] })}
            >
              {name}
            </button>
          ))}
        </p>
      )}
    </div>
  );
}
