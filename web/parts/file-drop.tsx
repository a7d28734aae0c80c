import { type DragEvent, type ReactNode, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';

/** Files that hold rows, as a chooser of files names them. */
export const TABLE_FILES = '.csv,.tsv,.txt,.xlsx,.json,.ics';

interface FileDropProps {
  /** What the place is called, and what the control is that opens the chooser. */
  label: string;
  words: string;
  choose: string;
  hint: ReactNode;
  accept?: string;
  isMany?: boolean;
  onFiles: (files: File[]) => void;
  children?: ReactNode;
}

/** Where files are dropped, or chosen. */
export function FileDrop({ label, words, choose, hint, accept, isMany = false, onFiles, children }: FileDropProps) {
  const [isOver, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    onFiles([...event.dataTransfer.files]);
  };
  return (
    <section
      className={`uploads${isOver ? ' is-over' : ''}`}
      aria-label={label}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <p>
        {words}{' '}
        <Button variant="link" onClick={() => chooser.current?.click()}>
          {choose}
        </Button>{' '}
        <span className="quiet small">{hint}</span>
      </p>
      <input
        ref={chooser}
        type="file"
        multiple={isMany}
        hidden
        accept={accept}
        aria-label={label}
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
      {children}
    </section>
  );
}
