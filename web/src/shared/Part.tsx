import type { ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";

/** A part of the page that may fail without taking the others with it. `resets`: when these change it is tried again. */
export function Part({ name, resets, children }: { name: string; resets?: unknown[]; children: ReactNode }) {
  return (
    <ErrorBoundary
      resetKeys={resets}
      fallbackRender={(fallback) => <Failed {...fallback} name={name} />}
      onError={(error) => console.warn(`${name} failed`, error)}
    >
      {children}
    </ErrorBoundary>
  );
}

function Failed({ name, error, resetErrorBoundary }: FallbackProps & { name: string }) {
  return (
    <div role="alert" className="pointer-events-auto flex h-full flex-col items-start gap-2 overflow-auto p-3 text-sm">
      <p>
        {name} cannot be shown: {error instanceof Error ? error.message : String(error)}. Your work is kept; the rest
        still works.
      </p>
      <button type="button" className="btn btn-xs" onClick={resetErrorBoundary}>
        Try again
      </button>
    </div>
  );
}
