import { useEffect } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { Link } from "wouter";
import { useStore } from "zustand";
import "../../stores/closeLook";
import { openShot, visit } from "../../stores/openShot";
import { presets } from "../../stores/presets";
import { pause } from "../../stores/transport";
import { view } from "../../stores/view";
import { AxisBoard } from "../axis-board";
import { ClipBoard } from "../clip-board";
import { CommandList, useKeyboard } from "../commands";
import { CueBoard } from "../cues";
import { DialDialog } from "../dials";
import { FormulaStrip } from "../formula";
import { HistoryDialog } from "../history";
import { Lanes } from "../lanes";
import { MoveBoard } from "../move-board";
import { OriginDialog, PresetDialog, TrialPane } from "../presets";
import { SetViewPane, Stage } from "../set-view";
import { ShotDialog } from "../shot-form";
import { DropZone, ExportDialog, ImportDialog } from "../transfer";
import { ViewfinderPane } from "../viewfinder";
import { BenchHead } from "./BenchHead";

const BOARD_PX = 436;

/** A shot on the bench: pictures on the wall, motion on the paper. */
export function Bench({ slug }: { slug: string }) {
  useEffect(() => {
    void visit(slug);
    return pause;
  }, [slug]);
  useKeyboard();
  const state = useStore(openShot, (each) => each.state);
  const missing = useStore(openShot, (each) => each.missing);
  const night = useStore(view, (each) => each.night);
  const dialog = useStore(view, (each) => each.dialog);
  const comparing = useComparing();
  if (missing) return <Missing message={missing} />;
  if (!state) return <div className="grid h-full place-items-center">Opening the shot …</div>;
  return (
    <main className="flex h-full flex-col">
      <BenchHead state={state} />
      <Group orientation="vertical" className="min-h-0 flex-1">
        <Panel defaultSize="51%" minSize="20%">
          <div className="relative h-full px-3 pb-2">
            <Stage />
            <Group orientation="horizontal" className="h-full">
              <Panel defaultSize="50%" minSize="15%">
                <ViewfinderPane />
              </Panel>
              <Separator className="w-2.5" aria-label="Resize the views" />
              <Panel minSize="15%">{comparing ? <TrialPane /> : <SetViewPane />}</Panel>
            </Group>
          </div>
        </Panel>
        <Separator className="h-1.5 bg-base-100 hover:bg-base-300" aria-label="Resize wall and paper" />
        <Panel minSize="25%">
          <div data-theme={night ? "paper-night" : "paper"} className="flex h-full bg-base-100 text-base-content">
            <section className="min-w-0 flex-1" aria-label="Lanes">
              <Lanes />
            </section>
            <aside
              className="shrink-0 overflow-y-auto border-base-300 border-l"
              style={{ width: BOARD_PX }}
              aria-label="Axis board"
            >
              <Board />
              <FormulaStrip />
            </aside>
          </div>
        </Panel>
      </Group>
      {dialog === "export" && <ExportDialog slug={state.slug} />}
      {dialog === "import" && <ImportDialog state={state} projectSlug={state.project_slug} />}
      {dialog === "shot" && <ShotDialog shot={state.document} />}
      {dialog === "history" && <HistoryDialog state={state} />}
      {dialog === "commands" && <CommandList />}
      {dialog === "preset" && <PresetDialog shot={state.document} />}
      {dialog === "origin" && <OriginDialog />}
      {dialog === "dial" && <DialDialog shot={state.document} />}
      <DropZone />
    </main>
  );
}

const BOARDS = { move: MoveBoard, clip: ClipBoard, cue: CueBoard, layer: AxisBoard };

/** What is selected. */
function Board() {
  const Shown = BOARDS[useStore(view, (each) => each.board)];
  return <Shown />;
}

/** Whether marked presets are shown beside each other. */
function useComparing(): boolean {
  const open = useStore(view, (each) => each.sheet === "presets");
  const marked = useStore(presets, (each) => each.marked.length > 0);
  return open && marked;
}

function Missing({ message }: { message: string }) {
  return (
    <main className="grid h-full place-items-center">
      <div className="max-w-md text-center">
        <h1 className="mb-2 font-semibold text-lg text-white">This shot cannot be opened</h1>
        <p className="mb-4 break-words">{message}</p>
        <Link href="/" className="btn btn-accent btn-sm">
          All projects
        </Link>
      </div>
    </main>
  );
}
