import { useEffect } from "react";
import { Group, Panel, Separator } from "react-resizable-panels";
import { Link } from "wouter";
import { useStore } from "zustand";
import type { State } from "../../api/types";
import "../../stores/closeLook";
import { importEach } from "../../acts/importing";
import { resumeMovie } from "../../acts/movie";
import { hangPictures } from "../../acts/plates";
import { DropZone } from "../../parts/DropZone";
import { Part } from "../../shared/Part";
import { blind } from "../../stores/blind";
import { followEdits } from "../../stores/following";
import { complain } from "../../stores/notes";
import { openShot, visit } from "../../stores/openShot";
import { presets } from "../../stores/presets";
import { sides } from "../../stores/sides";
import { pause } from "../../stores/transport";
import { view } from "../../stores/view";
import { useKeyboard } from "../commands";
import { FormulaStrip } from "../formula";
import { Lanes } from "../lanes";
import { TrialPane } from "../presets";
import { SetViewPane, Stage } from "../set-view";
import { BlindBar, BlindTest, OverFinder, SidePane } from "../variants";
import { ViewfinderPane } from "../viewfinder";
import { BenchHead } from "./BenchHead";
import { BOARDS, DIALOGS, MARKS, ROWS, SHEETS } from "./tables";

const BOARD_PX = 436;

/** A shot on the bench: pictures on the wall, motion on the paper. */
export function Bench({ slug }: { slug: string }) {
  useEffect(() => {
    void visit(slug);
    return pause;
  }, [slug]);
  useEffect(followEdits, []);
  useKeyboard();
  useMovieOfAddress();
  const state = useStore(openShot, (each) => each.state);
  const missing = useStore(openShot, (each) => each.missing);
  const night = useStore(view, (each) => each.night);
  const dialog = useStore(view, (each) => each.dialog);
  const sheet = useStore(view, (each) => each.sheet);
  const testing = useStore(blind, (each) => each.test !== null);
  if (missing) return <Missing message={missing} />;
  if (!state) return <div className="grid h-full place-items-center">Opening the shot …</div>;
  return (
    <main className="flex h-full flex-col">
      <BenchHead state={state} />
      <Group orientation="vertical" className="min-h-0 flex-1">
        <Panel defaultSize="51%" minSize="20%">
          <div className="relative h-full px-3 pb-2">
            <Part name="The picture of the set" resets={[state.id]}>
              <Stage />
            </Part>
            {testing ? <BlindTest /> : <Pictures shot={state.id} />}
          </div>
        </Panel>
        <Separator className="h-1.5 bg-base-100 hover:bg-base-300" aria-label="Resize wall and paper" />
        <Panel minSize="25%">
          <div data-theme={night ? "paper-night" : "paper"} className="flex h-full bg-base-100 text-base-content">
            {testing ? <BlindBar /> : <Paper state={state} sheet={sheet} />}
          </div>
        </Panel>
      </Group>
      <Part name="This dialog" resets={[dialog]}>
        <OpenDialog state={state} />
      </Part>
      <DropZone
        onPictures={(files) => void hangPictures(files)}
        onFiles={(files) => void importEach(files, state.project_slug, state)}
      />
    </main>
  );
}

/** The lanes and the board. */
function Paper({ state, sheet }: { state: State; sheet: string | null }) {
  return (
    <>
      <section className="min-w-0 flex-1 select-none" aria-label="Lanes">
        <Part name="The lanes" resets={[state.id, sheet]}>
          <Lanes rows={ROWS} sheets={SHEETS} marks={MARKS} />
        </Part>
      </section>
      <aside
        className="shrink-0 select-none overflow-y-auto border-base-300 border-l"
        style={{ width: BOARD_PX }}
        aria-label="Axis board"
      >
        <Board shot={state.id} />
        <Part name="The formula" resets={[state.id, state.revision]}>
          <FormulaStrip />
        </Part>
      </aside>
    </>
  );
}

function OpenDialog({ state }: { state: State }) {
  const dialog = useStore(view, (each) => each.dialog);
  const Shown = dialog && DIALOGS[dialog];
  return Shown ? <Shown state={state} /> : null;
}

/** The Viewfinder, and next to it the Set view or the comparison. */
function Pictures({ shot }: { shot: string }) {
  const comparing = useComparing();
  const hasSidePane = useStore(sides, (each) => each.shown.length > 0);
  return (
    <Group orientation="horizontal" className="h-full">
      <Panel defaultSize="50%" minSize="15%">
        <Part name="The Viewfinder" resets={[shot]}>
          <div className="relative h-full">
            <ViewfinderPane />
            <OverFinder />
          </div>
        </Part>
      </Panel>
      <Separator className="w-2.5" aria-label="Resize the views" />
      <Panel minSize="15%">
        <Part name="The Set view" resets={[shot, comparing, hasSidePane]}>
          {comparing ? <TrialPane /> : hasSidePane ? <SidePane /> : <SetViewPane />}
        </Part>
      </Panel>
    </Group>
  );
}

/** A movie that a script began is made by this page. */
function useMovieOfAddress(): void {
  useEffect(() => {
    const movie = new URLSearchParams(location.search).get("movie");
    if (movie) resumeMovie(movie).catch(complain);
  }, []);
}

/** The board of the selection. */
function Board({ shot }: { shot: string }) {
  const board = useStore(view, (each) => each.board);
  const layer = useStore(view, (each) => each.layer);
  const Shown = BOARDS[board];
  return (
    <Part name="The board" resets={[shot, board, layer]}>
      <Shown />
    </Part>
  );
}

/** Whether marked presets are shown side by side. */
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
