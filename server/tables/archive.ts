import { LIMITS } from '../../contract/limits.ts';

/** What a ZIP archive says that it holds, in bytes: all of its files unpacked, and how many there are. */
interface Unpacked {
  bytes: number;
  files: number;
}

const END = 0x06054b50;
const ENTRY = 0x02014b50;
/** The end of an archive, with the longest comment that may follow it. */
const END_BYTES = 22 + 0xffff;

/**
 * What an archive holds, as its own directory says (APPNOTE 6.3.3), told without unpacking anything; `null` where it
 * has no directory that could be read.
 */
export function unpackedSize(archive: Buffer): Unpacked | null {
  const end = archive.lastIndexOf(Buffer.from([0x50, 0x4b, 0x05, 0x06]));
  if (end < 0 || end < archive.length - END_BYTES || end + 22 > archive.length) return null;
  if (archive.readUInt32LE(end) !== END) return null;
  const files = archive.readUInt16LE(end + 10);
  let at = archive.readUInt32LE(end + 16);
  let bytes = 0;
  for (let file = 0; file < files; file += 1) {
    if (at + 46 > archive.length || archive.readUInt32LE(at) !== ENTRY) return null;
    bytes += archive.readUInt32LE(at + 24);
    at += 46 + archive.readUInt16LE(at + 28) + archive.readUInt16LE(at + 30) + archive.readUInt16LE(at + 32);
  }
  return { bytes, files };
}

/** Whether an archive says that it would unpack to more than may be held. */
export const unpacksTooLarge = ({ bytes, files }: Unpacked): boolean =>
  bytes > LIMITS.unpackedBytes || files > LIMITS.archiveFiles;
