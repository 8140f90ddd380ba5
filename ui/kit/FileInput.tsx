import type { RefObject } from "react";

interface Props {
  label: string;
  accept: string;
  /** Opened by a button of the screen. */
  opener: RefObject<HTMLInputElement | null>;
  onFile: (file: File) => void;
}

/** A file that is chosen by a button of the screen; the same one may be chosen again. */
export function FileInput({ label, accept, opener, onFile }: Props) {
  return (
    <input
      ref={opener}
      type="file"
      accept={accept}
      className="hidden"
      aria-label={label}
      onChange={(event) => {
        const file = event.target.files?.[0];
        if (file) onFile(file);
        event.target.value = "";
      }}
    />
  );
}
