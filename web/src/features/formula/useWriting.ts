import { useEffect, useRef, useState } from "react";
import { client, take } from "../../api/client";
import type { Formula, FormulaCheck } from "../../api/types";
import { commit } from "../../stores/editing";
import { complain } from "../../stores/notes";
import { cancelPreview, preview } from "../../stores/trying";
import { draftOf, dropDraft, keepDraft } from "./drafts";

const REST_MS = 180;

/** A formula being written: its text, how it stands, what it may name. It is tried on while it can be read, and kept when it is left, right or wrong. */
export function useWriting(shot: string, at: string, formula: Formula) {
  const kept = formula.draft ?? formula.text;
  const [text, setText] = useState(draftOf(shot, at) ?? kept);
  const [check, setCheck] = useState<FormulaCheck | null>(null);
  const now = useRef({ text, kept });
  // Changed from elsewhere, and not being changed here: it follows.
  if (kept !== now.current.kept && now.current.text.trim() === now.current.kept) setText(kept);
  now.current = { text, kept };
  const over = useRef(false);
  const command = (written: string) => ({ type: "set_formula" as const, formulas: [{ at, text: written }] });
  const keep = () => {
    dropDraft(shot, at);
    if (now.current.text.trim() !== now.current.kept) void commit(command(now.current.text.trim()));
    else cancelPreview();
  };
  /** What was typed is not wanted. */
  const giveUp = () => {
    over.current = true;
    dropDraft(shot, at);
  };
  const write = (written: string) => {
    setText(written);
    keepDraft(shot, at, written);
  };
  // The text is asked about when the hand rests; the answer to an older one is dropped.
  useEffect(() => {
    let here = true;
    const ask = async () => {
      const params = { path: { shot } };
      const answer = await take<FormulaCheck>(
        client.POST("/api/shots/{shot}/formula", { params, body: { at, text: text.trim() } }),
      );
      if (!here) return;
      setCheck(answer);
      if (!answer.state.fault && text.trim() !== now.current.kept) preview(command(text.trim()));
    };
    const timer = setTimeout(() => void ask().catch(complain), REST_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [shot, at, text]);
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
