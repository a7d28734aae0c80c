/** A cell as a file holds it: a text, a number, yes or no; days and instants as text (RFC 3339). `null` where it is empty. */
export type Cell = string | number | boolean | null;

/** A table with a line of names over it. Every row has as many cells as there are columns. */
export interface Grid {
  columns: string[];
  rows: GridRow[];
}

/** A row and where it stands in its file: the first line below the names is 2. */
export interface GridRow {
  line: number;
  cells: Cell[];
}

const isBlank = (cell: Cell | undefined): boolean =>
  cell === null || cell === undefined || (typeof cell === 'string' && cell.trim() === '');

/** `A`, `B`, … `Z`, `AA`, as sheets name their columns. */
function letters(at: number): string {
  const last = String.fromCharCode(65 + (at % 26));
  return at < 26 ? last : `${letters(Math.floor(at / 26) - 1)}${last}`;
}

/** A table of what a file holds: its first line with anything in it names the columns, lines with nothing in them are left out. */
export function gridOf(lines: readonly (readonly Cell[])[]): Grid {
  const head = lines.findIndex((line) => line.some((cell) => !isBlank(cell)));
  if (head < 0) return { columns: [], rows: [] };
  const filled = lines
    .map((cells, at) => ({ line: at + 1, cells }))
    .slice(head + 1)
    .filter(({ cells }) => cells.some((cell) => !isBlank(cell)));
  const width = Math.max(...[lines[head] ?? [], ...filled.map(({ cells }) => cells)].map(lengthOf));
  const taken = new Set<string>();
  const columns = Array.from({ length: width }, (_, at) => {
    const given = isBlank(lines[head]?.[at]) ? letters(at) : String(lines[head]?.[at]).trim();
    let name = given;
    for (let copy = 2; taken.has(name); copy += 1) name = `${given} ${copy}`;
    taken.add(name);
    return name;
  });
  const rows = filled.map(({ line, cells }) => ({
    line,
    cells: columns.map((_, at) => (isBlank(cells[at]) ? null : (cells[at] as Cell))),
  }));
  return { columns, rows };
}

/** How many cells a line has up to its last with anything in it. */
function lengthOf(cells: readonly Cell[]): number {
  let length = cells.length;
  while (length > 0 && isBlank(cells[length - 1])) length -= 1;
  return length;
}
