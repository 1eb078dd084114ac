import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useRef } from "react";
import { client, take } from "../../api/client";
import type { SourceKind, Tables } from "../../api/types";
import { selectNewest } from "../../stores/selection";
import { commit } from "../../stores/session";

/** Adds a layer of a source; each says what it imitates. */
export function AddLayerMenu() {
  const tables = useQuery({
    queryKey: ["tables"],
    queryFn: () => take<Tables>(client.GET("/api/tables")),
    staleTime: Infinity,
  });
  const ref = useRef<HTMLDetailsElement>(null);
  return (
    <details ref={ref} className="dropdown dropdown-end">
      <summary className="btn btn-xs list-none" aria-label="Add layer">
        <Plus size={13} /> Layer
      </summary>
      <ul className="dropdown-content z-20 mt-1 w-72 rounded-md border border-base-300 bg-base-100 p-1 shadow-lg">
        {tables.data?.sources.map((source) => (
          <li key={source.kind}>
            <button
              type="button"
              className="w-full rounded-sm px-2 py-1 text-left hover:bg-(--wash)"
              onClick={() => {
                if (ref.current) ref.current.open = false;
                void commit({ type: "add_layer", source: source.kind as SourceKind }, selectNewest);
              }}
            >
              <span className="cond block font-semibold">{source.title}</span>
              <span className="block text-(--graphite) text-xs">{source.imitates}</span>
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
