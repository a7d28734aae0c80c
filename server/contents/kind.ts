import { fileTypeFromBuffer } from 'file-type';

/** So much of the beginning tells what contents are, in bytes. */
export const HEAD_BYTES = 64 * 1024;

/** What text is called by the ending of its name; any other ending is plain text. */
const TEXTS: Record<string, string> = {
  md: 'text/markdown',
  markdown: 'text/markdown',
  csv: 'text/csv',
  json: 'application/json',
  ics: 'text/calendar',
};

/**
 * What contents are, as a media type, told by the contents themselves and never by what is said of them: by their first
 * bytes, else, where all of it reads as UTF-8 without control signs, as text, of which alone the ending of the name says
 * what sort; anything else is bytes.
 * @param isText whether all of it reads as text
 */
export async function kindOfContents(head: Buffer, name: string, isText: boolean): Promise<string> {
  const known = head.length > 0 ? await fileTypeFromBuffer(head) : undefined;
  if (known) return known.mime;
  if (!isText) return 'application/octet-stream';
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  return TEXTS[ending] ?? 'text/plain';
}

/** Reads pieces of contents as they come, and says whether all of them were text. */
export class TextSense {
  private readonly decoder = new TextDecoder('utf-8', { fatal: true });
  private isSound = true;

  take(piece: Buffer): void {
    if (!this.isSound) return;
    try {
      this.isSound = !hasControls(this.decoder.decode(piece, { stream: true }));
    } catch {
      this.isSound = false;
    }
  }

  /** Whether it was text to its end. */
  end(): boolean {
    if (!this.isSound) return false;
    try {
      this.decoder.decode();
      return true;
    } catch {
      return false;
    }
  }
}

/** Signs that stand in no text: all controls but tab, line feed, form feed and carriage return. */
const hasControls = (text: string): boolean =>
  [...text].some((sign) => sign < ' ' && sign !== '\t' && sign !== '\n' && sign !== '\f' && sign !== '\r');
