import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useLocation } from "wouter";
import { useStore } from "zustand";
import { importEach } from "../../acts/importing";
import { client, sendForm, take } from "../../api/client";
import type { Project, State } from "../../api/types";
import { DropZone } from "../../parts/DropZone";
import { ImportDialog } from "../../parts/ImportDialog";
import { complain } from "../../stores/notes";
import { view } from "../../stores/view";
import { isProjectFile, OpenProjectFile, useProjectFile } from "./ProjectFile";
import { ProjectShelf } from "./ProjectShelf";

/** All projects, each a list of shots. */
export function ProjectsPage() {
  const projects = useQuery({
    queryKey: ["projects"],
    meta: { told: true },
    queryFn: () => take<Project[]>(client.GET("/api/projects")),
  });
  const queries = useQueryClient();
  const dialog = useStore(view, (state) => state.dialog);
  const [, go] = useLocation();
  // Pictures dropped on a project become a shot of it.
  const shotOf = useMutation({
    mutationFn: ({ project, files }: { project: string; files: File[] }) =>
      sendForm<State>(`/api/projects/${project}/plates`, { files }, ""),
    onSuccess: ({ slug }) => go(`/shot/${slug}`),
    onError: complain,
  });
  const unpacked = useProjectFile();
  const [target, setTarget] = useState<string | null>(null);
  const first = projects.data?.[0]?.slug;
  return (
    <main className="h-full overflow-y-auto px-10 py-8">
      <header className="mx-auto mb-8 flex max-w-6xl items-end justify-between">
        <div>
          <h1 className="flex items-center gap-3 font-semibold text-2xl text-white">
            <img src="/assets/mark.svg" alt="" className="h-6" /> Zittern
          </h1>
          <p className="mt-1 text-sm">Adds handheld and operator motion to camera moves.</p>
        </div>
        <NewProject onFile={unpacked.mutate} />
      </header>
      <div className="mx-auto flex max-w-6xl flex-col gap-8">
        {projects.isPending && <p>Loading projects …</p>}
        {projects.error && (
          <p role="alert" className="rounded-sm border border-error px-4 py-3">
            {projects.error.message}{" "}
            <button type="button" className="btn btn-xs ml-2" onClick={() => void projects.refetch()}>
              Try again
            </button>
          </p>
        )}
        {projects.data?.map((project) => (
          <ProjectShelf key={project.slug} project={project} onImport={() => setTarget(project.slug)} />
        ))}
        {projects.data?.length === 0 && (
          <p className="rounded-md border border-base-300 border-dashed px-6 py-10 text-center">
            No projects yet. Create one above, or run <code className="num">zittern demo</code> for a furnished example.
          </p>
        )}
      </div>
      {dialog === "import" && (target ?? first) && <ImportDialog state={null} projectSlug={target ?? first ?? ""} />}
      <DropZone
        onPictures={(files, on) => {
          const project = projectAt(on) ?? first;
          if (project) shotOf.mutate({ project, files });
        }}
        onFiles={(files, on) => {
          for (const file of files.filter(isProjectFile)) unpacked.mutate(file);
          const paths = files.filter((file) => !isProjectFile(file));
          const project = projectAt(on) ?? first;
          if (project && paths.length > 0)
            void importEach(paths, project, null).then(() => queries.invalidateQueries());
        }}
      />
    </main>
  );
}

/** The project under the drop. */
function projectAt(on: EventTarget | null): string | undefined {
  return on instanceof Element ? on.closest<HTMLElement>("[data-project]")?.dataset.project : undefined;
}

function NewProject({ onFile }: { onFile: (file: File) => void }) {
  const [name, setName] = useState("");
  const queries = useQueryClient();
  const add = async () => {
    if (!name.trim()) return;
    try {
      await take<Project>(client.POST("/api/projects", { body: { name } }));
      setName("");
      await queries.invalidateQueries({ queryKey: ["projects"] });
    } catch (error) {
      complain(error);
    }
  };
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <OpenProjectFile onFile={onFile} />
      <input
        className="input input-sm w-56"
        placeholder="Name of a new project"
        aria-label="Name of a new project"
        maxLength={120}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="submit" className="btn btn-sm" disabled={!name.trim()}>
        <Plus size={15} /> New project
      </button>
    </form>
  );
}
