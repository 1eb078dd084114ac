import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useLocation } from "wouter";
import { client, Problem, sendForm, take } from "../../api/client";
import type { SetObjects, State, Tables } from "../../api/types";
import { Dialog } from "../../shared/Dialog";

const SIZES = ["1920 × 1080", "2048 × 858", "3840 × 2160", "1080 × 1920", "1440 × 1080"] as const;

const OWN = "own file";

/** Everything a new shot starts from; only the name has to be given. */
export function NewShotDialog({ project, onClose }: { project: string; onClose: () => void }) {
  const tables = useQuery({
    queryKey: ["tables"],
    queryFn: () => take<Tables>(client.GET("/api/tables")),
    staleTime: Infinity,
  });
  const [name, setName] = useState("");
  const [set, setSet] = useState("");
  const [fps, setFps] = useState("24");
  const [seconds, setSeconds] = useState("10");
  const [size, setSize] = useState<string>(SIZES[0]);
  const [sensor, setSensor] = useState("36");
  const [focal, setFocal] = useState("35");
  const [problem, setProblem] = useState("");
  const [bringing, setBringing] = useState("");
  const chooser = useRef<HTMLInputElement>(null);
  const known = useQueryClient();
  const [, go] = useLocation();
  const explain = (error: unknown) =>
    error instanceof Problem ? `${error.message}${error.where ? ` (${error.where})` : ""}` : String(error);
  const bringSet = async (file: File) => {
    setProblem("");
    setBringing(file.name);
    try {
      const { set_id } = await sendForm<SetObjects>("/api/sets", { file }, file.name);
      await known.invalidateQueries({ queryKey: ["tables"] });
      setSet(set_id);
    } catch (error) {
      setProblem(`${file.name}: ${explain(error)}`);
    }
    setBringing("");
  };
  const add = async () => {
    const [width = 1920, height = 1080] = size.split(" × ").map(Number);
    const rate = fps.includes("/") ? Number(fps.split("/")[0]) / Number(fps.split("/")[1]) : Number(fps);
    const body = {
      name,
      fps: fps as unknown as { num: number; den: number },
      frames: Math.max(1, Math.round(Number(seconds) * rate)),
      set_id: set || null,
      picture: { width_px: width, height_px: height },
      sensor_mm: Number(sensor),
      focal_mm: Number(focal),
    };
    try {
      const state = await take<State>(
        client.POST("/api/projects/{slug}/shots", { params: { path: { slug: project } }, body }),
      );
      go(`/shot/${state.slug}`);
    } catch (error) {
      setProblem(explain(error));
    }
  };
  const field = (title: string, unit: string, value: string, change: (text: string) => void) => (
    <label className="flex flex-col gap-1 text-sm">
      {title}
      <span className="input input-sm w-full">
        <input className="num" value={value} onChange={(event) => change(event.target.value)} />
        <span className="num text-xs">{unit}</span>
      </span>
    </label>
  );
  return (
    <Dialog title="New shot" onClose={onClose}>
      <form
        className="grid grid-cols-3 gap-3"
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          event.stopPropagation();
          const file = event.dataTransfer.files[0];
          if (file) void bringSet(file);
        }}
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <label className="col-span-2 flex flex-col gap-1 text-sm">
          Name
          <input
            className="input input-sm w-full"
            aria-label="Name of the new shot"
            maxLength={120}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <div className="flex flex-col gap-1 text-sm">
          <label htmlFor="new-shot-set">Set</label>
          <select
            id="new-shot-set"
            className="select select-sm w-full"
            value={set}
            disabled={bringing !== ""}
            onChange={(event) => (event.target.value === OWN ? chooser.current?.click() : setSet(event.target.value))}
          >
            <option value="">plain ground</option>
            {tables.data?.sets.map((each) => (
              <option key={each}>{each}</option>
            ))}
            <option value={OWN}>{bringing ? `reading ${bringing} …` : "a GLB file of mine …"}</option>
          </select>
          <input
            ref={chooser}
            type="file"
            accept=".glb"
            className="hidden"
            aria-label="Set file of the new shot"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) void bringSet(file);
            }}
          />
        </div>
        {field("Frame rate", "fps", fps, setFps)}
        {field("Length", "s", seconds, setSeconds)}
        <label className="flex flex-col gap-1 text-sm">
          Picture
          <select className="select select-sm w-full" value={size} onChange={(event) => setSize(event.target.value)}>
            {SIZES.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
        {field("Sensor width", "mm", sensor, setSensor)}
        {field("Focal length", "mm", focal, setFocal)}
        {problem && (
          <p
            role="alert"
            className="col-span-3 rounded-sm border border-error bg-[#3a1d17] px-3 py-2 text-[#f4e2dc] text-sm"
          >
            {problem}
          </p>
        )}
        <div className="col-span-3 flex items-center justify-end gap-3">
          <span className="mr-auto text-xs">A GLB dropped on this form becomes its set, with its own animations.</span>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || bringing !== ""}>
            Make
          </button>
        </div>
      </form>
    </Dialog>
  );
}
