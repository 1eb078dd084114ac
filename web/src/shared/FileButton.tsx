import { type ReactNode, useRef } from "react";

type FileButtonProps = {
  /** Label of the file for screen readers. */
  label: string;
  title: string;
  /** Endings and kinds that may be chosen. */
  accept: string;
  className?: string;
  children: ReactNode;
  onFile: (file: File) => void;
};

/** A button that asks for a file. */
export function FileButton({ label, title, accept, className = "btn-xs", children, onFile }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" className={`btn ${className}`} title={title} onClick={() => input.current?.click()}>
        {children}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) onFile(file);
          // Allows the same file again.
          event.target.value = "";
        }}
      />
    </>
  );
}
