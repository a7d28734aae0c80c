/** A small document: what it is, and its bytes. */
export interface PaperFile {
  mediaType: string;
  bytes: Buffer;
}

/** A document's bytes for a name, by the name's ending. */
export function paperFile(name: string, version: number, lines: string[]): PaperFile {
  if (name.endsWith('.pdf')) return { mediaType: 'application/pdf', bytes: pdf([name, `Version ${version}`, '', ...lines]) };
  return { mediaType: 'text/markdown', bytes: Buffer.from(`# ${name.replace(/\.md$/, '')}\n\nVersion ${version}\n\n${lines.join('\n\n')}\n`) };
}

/** One page of text as a PDF (ISO 32000-1): five objects and their table of offsets. */
function pdf(lines: string[]): Buffer {
  const shown = lines.map((line) => `(${line.normalize('NFD').replace(/[^\x20-\x7e]/g, '').replace(/[\\()]/g, '\\$&')}) Tj T*`).join('\n');
  const stream = `BT /F1 13 Tf 20 TL 72 760 Td\n${shown}\nET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>', '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 5 0 R /Resources << /Font << /F1 4 0 R >> >> >>',
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>', `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
  ];
  let body = '%PDF-1.4\n';
  const offsets = objects.map((object, at) => {
    const offset = body.length;
    body += `${at + 1} 0 obj\n${object}\nendobj\n`;
    return offset;
  });
  const table = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  return Buffer.from(`${body}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${body.length}\n%%EOF\n`, 'latin1');
}
