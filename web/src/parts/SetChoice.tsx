import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useId, useRef, useState } from "react";
import { client, explain, sendForm, take } from "../api/client";
import type { SetObjects, Tables } from "../api/types";

const OWN = "own file";

/** The set of a shot: a shipped one, or a custom GLB. `bring` takes a file that was dropped elsewhere. */
export function useSetFiles(onSet: (set: string) => void, onProblem: (text: string) => void) {
  const [bringing, setBringing] = useState("");
  const known = useQueryClient();
  const bring = async (file: File) => {
    onProblem("");
    setBringing(file.name);
    try {
      const { set_id } = await sendForm<SetObjects>("/api/sets", { file }, file.name);
      await known.invalidateQueries({ queryKey: ["tables"] });
      onSet(set_id);
    } catch (error) {
      onProblem(`${file.name}: ${explain(error)}`);
    }
    setBringing("");
  };
  /** For the form: a file dropped anywhere on it. */
  const dropping = {
    onDragOver: (event: React.DragEvent) => {
      event.preventDefault();
      event.stopPropagation();
    },
    onDrop: (event: React.DragEvent) => {
      event.preventDefault();
      event.stopPropagation();
      const file = event.dataTransfer.files[0];
      if (file) void bring(file);
    },
  };
  return { bringing, bring, dropping };
}

export function SetChoice(props: {
  value: string;
  bringing: string;
  onSet: (set: string) => void;
  onFile: (file: File) => void;
}) {
  const { value, bringing, onSet, onFile } = props;
  const id = useId();
  const chooser = useRef<HTMLInputElement>(null);
  const tables = useQuery({
    queryKey: ["tables"],
    queryFn: () => take<Tables>(client.GET("/api/tables")),
    staleTime: Infinity,
  });
  const sets = tables.data?.sets ?? [];
  return (
    <div className="flex flex-col gap-1 text-sm">
      <label htmlFor={id}>Set</label>
      <select
        id={id}
        className="select select-sm w-full"
        value={value}
        disabled={bringing !== ""}
        onChange={(event) => (event.target.value === OWN ? chooser.current?.click() : onSet(event.target.value))}
      >
        <option value="">Empty ground</option>
        {value && !sets.some((each) => each.set_id === value) && <option>{value}</option>}
        {sets.map((each) => (
          <option key={each.set_id} value={each.set_id}>
            {each.title}
          </option>
        ))}
        <option value={OWN}>{bringing ? `reading ${bringing} …` : "Import a GLB …"}</option>
      </select>
      <input
        ref={chooser}
        type="file"
        accept=".glb"
        className="hidden"
        aria-label="Set file of the shot"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </div>
  );
}
