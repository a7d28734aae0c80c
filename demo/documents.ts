import { crc32, deflateSync } from 'node:zlib';

/** A small document: what it is, and its bytes. */
export interface PaperFile {
  mediaType: string;
  bytes: Buffer;
}

/** A document's bytes for a name, by the name's ending. */
export function paperFile(name: string, version: number, lines: string[]): PaperFile {
  if (name.endsWith('.pdf'))
    return { mediaType: 'application/pdf', bytes: pdf([name, `Version ${version}`, '', ...lines]) };
  if (name.endsWith('.docx'))
    return {
      mediaType: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
      bytes: docx([name, `Version ${version}`, ...lines]),
    };
  if (name.endsWith('.png')) return { mediaType: 'image/png', bytes: png(name) };
  return {
    mediaType: 'text/markdown',
    bytes: Buffer.from(`# ${name.replace(/\.md$/, '')}\n\nVersion ${version}\n\n${lines.join('\n\n')}\n`),
  };
}

/** One page of text as a PDF (ISO 32000-1): five objects and their table of offsets. */
function pdf(lines: string[]): Buffer {
  const shown = lines
    .map(
      (line) =>
        `(${line
          .normalize('NFD')
          .replace(/[^\x20-\x7e]/g, '')
          .replace(/[\\()]/g, '\\$&')}) Tj T*`,
    )
    .join('\n');
  const stream = `BT /F1 13 Tf 20 TL 72 760 Td\n${shown}\nET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 5 0 R /Resources << /Font << /F1 4 0 R >> >> >>',
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
  ];
  let body = '%PDF-1.4\n';
  const offsets = objects.map((object, at) => {
    const offset = body.length;
    body += `${at + 1} 0 obj\n${object}\nendobj\n`;
    return offset;
  });
  const table = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  return Buffer.from(
    `${body}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${body.length}\n%%EOF\n`,
    'latin1',
  );
}

const xml = (text: string) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;');

/** Paragraphs as an Office Open XML document (ISO/IEC 29500): three parts in a ZIP archive, stored as they are. */
function docx(lines: string[]): Buffer {
  const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>';
  const paragraphs = lines.map((line) => `<w:p><w:r><w:t>${xml(line)}</w:t></w:r></w:p>`).join('');
  return zip([
    [
      '[Content_Types].xml',
      `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`,
    ],
    [
      '_rels/.rels',
      `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`,
    ],
    [
      'word/document.xml',
      `${head}<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${paragraphs}</w:body></w:document>`,
    ],
  ]);
}

/** Files in a ZIP archive (APPNOTE 6.3.3), each stored without compression. */
function zip(files: [name: string, text: string][]): Buffer {
  const parts: Buffer[] = [];
  const directory: Buffer[] = [];
  let offset = 0;
  for (const [name, text] of files) {
    const bytes = Buffer.from(text);
    const common = Buffer.alloc(26);
    common.writeUInt16LE(20, 0);
    common.writeUInt16LE(0x5a61, 8);
    common.writeUInt32LE(crc32(bytes), 10);
    common.writeUInt32LE(bytes.length, 14);
    common.writeUInt32LE(bytes.length, 18);
    common.writeUInt16LE(name.length, 22);
    const entry = Buffer.alloc(46);
    entry.writeUInt32LE(0x02014b50, 0);
    entry.writeUInt16LE(20, 4);
    common.copy(entry, 6);
    entry.writeUInt32LE(offset, 42);
    parts.push(Buffer.from('PK\x03\x04', 'latin1'), common, Buffer.from(name), bytes);
    directory.push(entry, Buffer.from(name));
    offset += 30 + name.length + bytes.length;
  }
  const listed = Buffer.concat(directory);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(files.length, 8);
  end.writeUInt16LE(files.length, 10);
  end.writeUInt32LE(listed.length, 12);
  end.writeUInt32LE(offset, 16);
  return Buffer.concat([...parts, listed, end]);
}

/** A woven pattern as a picture in PNG (ISO/IEC 15948), other for every name. */
function png(name: string): Buffer {
  const size = 96;
  const seed = crc32(Buffer.from(name));
  const threads = [
    [23, 33, 28],
    [255, 197, 51],
    [seed & 127, (seed >> 8) & 127, 120],
  ];
  const row = (y: number) => [
    0,
    ...Array.from({ length: size }, (_, x) => ((x >> 3) + (y >> 3) * ((seed % 5) + 1)) % 3).flatMap(
      (thread) => threads[thread] ?? [],
    ),
  ];
  const header = Buffer.alloc(13);
  header.writeUInt32BE(size, 0);
  header.writeUInt32BE(size, 4);
  header.set([8, 2, 0, 0, 0], 8);
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const frame = Buffer.alloc(4);
    frame.writeUInt32BE(data.length);
    const sum = Buffer.alloc(4);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([frame, body, sum]);
  };
  const pixels = Buffer.from(Array.from({ length: size }, (_, y) => row(y)).flat());
  return Buffer.concat([
    Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(pixels)),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
