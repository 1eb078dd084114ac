import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, take } from "../../api/client";
import type { Formula, FormulaCheck } from "../../api/types";
import { useRested } from "../../shared/useRested";
import { commit } from "../../stores/editing";
import { cancelPreview, preview } from "../../stores/preview";
import { draftOf, dropDraft, keepDraft } from "./drafts";

const REST_MS = 180;

/** The result of checking a text, requested after a pause; until then that of the previous text. */
function useCheck(shot: string, at: string, text: string) {
  const restedText = useRested(text, REST_MS);
  const body = { at, text: restedText ?? "" };
  return useQuery({
    queryKey: ["formula", shot, body],
    queryFn: async () => {
      const asking = client.POST("/api/shots/{shot}/formula", { params: { path: { shot } }, body });
      return { text: body.text, ...(await take<FormulaCheck>(asking)) };
    },
    enabled: restedText !== undefined,
    placeholderData: keepPreviousData,
  }).data;
}

/** A formula being written: its text, how it stands, what it may name. It is tried on while it can be read, and kept when it is left, right or wrong. */
export function useWriting(shot: string, at: string, formula: Formula) {
  const storedText = formula.draft ?? formula.text;
  const [text, setText] = useState(draftOf(shot, at) ?? storedText);
  const now = useRef({ text, kept: storedText });
  // Changed from elsewhere, and not being changed here: it follows.
  if (storedText !== now.current.kept && now.current.text.trim() === now.current.kept) setText(storedText);
  now.current = { text, kept: storedText };
  const over = useRef(false);
  const command = (written: string) => ({ type: "set_formula" as const, formulas: [{ at, text: written }] });
  const keep = () => {
    dropDraft(shot, at);
    if (now.current.text.trim() !== now.current.kept) void commit(command(now.current.text.trim()));
    else cancelPreview();
  };
  /** The text is discarded. */
  const giveUp = () => {
    over.current = true;
    dropDraft(shot, at);
  };
  const write = (written: string) => {
    setText(written);
    keepDraft(shot, at, written);
  };
  const check = useCheck(shot, at, text.trim());
  // A valid text is previewed.
  useEffect(() => {
    const { text, kept } = now.current;
    const written = text.trim();
    if (check?.text === written && !check.state.fault && written !== kept) preview(command(written));
  }, [check]);
  // Leaving the strip keeps what is in it.
  const leave = useRef(keep);
  leave.current = keep;
  useEffect(
    () => () => {
      if (!over.current) leave.current();
    },
    [],
  );
  return { text, write, keep, giveUp, state: check?.state ?? null, names: check?.names ?? [] };
}
