import { useMutation, useQueryClient } from "@tanstack/react-query";
import { FileDown, FolderUp } from "lucide-react";
import { sendForm } from "../../api/client";
import type { Unpacked } from "../../api/types";
import { FileButton } from "../../shared/FileButton";
import { complain, note } from "../../stores/notes";

const ENDING = ".zittern";

export const isProjectFile = ({ name }: File) => name.endsWith(ENDING);

/** Adds the project of a file, and reports its name. */
export function useProjectFile() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (file: File) => sendForm<Unpacked>("/api/projects/unpack", { file }, file.name),
    onSuccess: ({ name, shots }) => {
      note("info", `“${name}” is open: ${shots.length === 1 ? "1 shot" : `${shots.length} shots`}`);
      return queries.invalidateQueries();
    },
    onError: complain,
  });
}

export function OpenProjectFile({ onFile }: { onFile: (file: File) => void }) {
  return (
    <FileButton
      label="Project file"
      title="Add the project of a file (.zittern) as a new one"
      accept={ENDING}
      className="btn-sm"
      onFile={onFile}
    >
      <FolderUp size={15} /> Open a project file
    </FileButton>
  );
}

export function SaveProjectFile({ slug }: { slug: string }) {
  return (
    <a
      className="btn btn-ghost btn-sm ml-auto"
      href={`/api/projects/${slug}/file`}
      download
      title="One file with all shots, and the presets, sets and pictures that they use"
    >
      <FileDown size={14} /> Save as a file
    </a>
  );
}
