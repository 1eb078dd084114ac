import { useQuery, useQueryClient } from "@tanstack/react-query";
import { FileUp, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { client, take } from "../../api/client";
import type { ShotCard as Card, Project } from "../../api/types";
import { complain } from "../../stores/notes";
import { openImport } from "../../stores/view";
import { BrokenShotCard } from "./BrokenShotCard";
import { NewShotDialog } from "./NewShotDialog";
import { SaveProjectFile } from "./ProjectFile";
import { ShotCard } from "./ShotCard";

/** A project with its shots, on paper. */
export function ProjectShelf({ project, onImport }: { project: Project; onImport: () => void }) {
  const path = { slug: project.slug };
  const shots = useQuery({
    queryKey: ["shots", project.slug],
    queryFn: () => take<Card[]>(client.GET("/api/projects/{slug}/shots", { params: { path } })),
  });
  const queries = useQueryClient();
  const [making, setMaking] = useState(false);
  const remove = async () => {
    try {
      await take<void>(client.DELETE("/api/projects/{slug}", { params: { path } }));
      await queries.invalidateQueries({ queryKey: ["projects"] });
    } catch (error) {
      complain(error);
    }
  };
  return (
    <section
      aria-label={project.name}
      data-theme="paper"
      data-project={project.slug}
      className="rounded-md bg-base-100 px-5 py-4 text-base-content"
    >
      <div className="mb-3 flex items-center gap-3">
        <h2 className="min-w-0 truncate font-semibold text-lg" title={project.name}>
          {project.name}
        </h2>
        <span className="cond shrink-0 text-(--graphite)">
          {project.shots === 1 ? "1 shot" : `${project.shots} shots`}
        </span>
        <SaveProjectFile slug={project.slug} />
        {shots.data?.length === 0 && (
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => void remove()}>
            <Trash2 size={14} /> Remove project
          </button>
        )}
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            onImport();
            openImport(null);
          }}
        >
          <FileUp size={14} /> Import a path
        </button>
        <button type="button" className="btn btn-sm" onClick={() => setMaking(true)}>
          <Plus size={14} /> New shot
        </button>
      </div>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-4">
        {shots.data?.map((shot) =>
          shot.problem === null ? <ShotCard key={shot.id} shot={shot} /> : <BrokenShotCard key={shot.id} shot={shot} />,
        )}
        {shots.data?.length === 0 && (
          <p className="col-span-full py-6 text-center text-(--graphite)">
            No shots yet: import a camera path, or create an empty shot.
          </p>
        )}
      </div>
      {making && (
        <div data-theme="wall">
          <NewShotDialog project={project.slug} onClose={() => setMaking(false)} />
        </div>
      )}
    </section>
  );
}
