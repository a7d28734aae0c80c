import { useRef } from 'react';
import { Button } from 'react-bootstrap';

/** A button that opens the chooser of files. */
export function FileButton({ accept, words, onFile }: { accept: string; words: string; onFile: (file: File) => void }) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button variant="link" size="sm" onClick={() => chooser.current?.click()}>
        {words}
      </Button>
      <input
        ref={chooser}
        type="file"
        hidden
        accept={accept}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
