import { useQueryClient } from "@tanstack/react-query";
import { complain } from "../../stores/notes";

/** Waits for a change of projects or shots and shows the result. */
export function useActing(): (work: Promise<unknown>) => Promise<void> {
  const queries = useQueryClient();
  return async (work) => {
    try {
      await work;
      await queries.invalidateQueries();
    } catch (error) {
      complain(error);
    }
  };
}
