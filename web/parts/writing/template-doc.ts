/** A document of the editor, as ProseMirror keeps one in JSON. */
export interface DocNode {
  type: string;
  attrs?: Record<string, unknown>;
  marks?: { type: string; attrs?: Record<string, unknown> }[];
  text?: string;
  content?: DocNode[];
}

/** What says of each field that changed what it was and is: in the editor one block, in the text a loop. */
export const WHAT_CHANGED =
  '{% for field in change.fields %}{{ field.label }}: {{ field.before }} → {{ field.after }}\n{% endfor %}';
const CHANGED_SIGN = '\ue0fe';

/** A template's own signs: a placeholder by name, and all else that stands in braces. */
const TAG = /\{\{\s*([\w.]+)\s*\}\}|\{\{[\s\S]*?\}\}|\{%[\s\S]*?%\}/g;

type Marks = NonNullable<DocNode['marks']>;
const withMarks = (node: DocNode, marks: Marks): DocNode => (marks.length > 0 ? { ...node, marks } : node);

/** Words, with the placeholders among them. */
function plainInline(text: string, marks: Marks): DocNode[] {
  const nodes: DocNode[] = [];
  let from = 0;
  const put = (words: string) => {
    if (words !== '') nodes.push(withMarks({ type: 'text', text: words }, marks));
  };
  for (const found of text.matchAll(TAG)) {
    put(text.slice(from, found.index));
    const [whole, name] = found;
    const node = name ? { type: 'placeholder', attrs: { name } } : { type: 'raw', attrs: { source: whole } };
    nodes.push(withMarks(node, marks));
    from = found.index + whole.length;
  }
  put(text.slice(from));
  return nodes;
}

const BOLD = /\*\*(?=\S)((?:(?!\*\*).)+?)(?<=\S)\*\*/;
const LINK = /\[([^\]\n]+)\]\(((?:\{\{[^}]*\}\}|[^)\s])+)\)/;

/** One line, with what stands out in it and where it leads. */
function inline(text: string, marks: Marks = []): DocNode[] {
  const bold = BOLD.exec(text);
  const link = LINK.exec(text);
  const first = bold && (!link || bold.index < link.index) ? bold : link;
  if (!first) return plainInline(text, marks);
  const mark = first === bold ? { type: 'bold' } : { type: 'link', attrs: { href: first[2] ?? '' } };
  return [
    ...plainInline(text.slice(0, first.index), marks),
    ...inline(first[1] ?? '', [...marks, mark]),
    ...inline(text.slice(first.index + first[0].length), marks),
  ];
}

const ITEM = /^- (.*)$/;
const NUMBERED = /^\d{1,2}\. (.*)$/;

/** A line of a list, with what stands behind its sign; `null` of any other line. */
function listed(line: string): { list: 'bulletList' | 'orderedList'; words: string } | null {
  const [, item] = ITEM.exec(line) ?? [];
  if (item !== undefined) return { list: 'bulletList', words: item };
  const [, numbered] = NUMBERED.exec(line) ?? [];
  return numbered === undefined ? null : { list: 'orderedList', words: numbered };
}

/** Puts a line where it belongs: into the list or paragraph that the line before it is of, else into one of its own. */
function putLine(blocks: DocNode[], line: string, isOpen: boolean): void {
  const found = listed(line);
  const last = isOpen ? blocks.at(-1) : undefined;
  if (found) {
    const item: DocNode = { type: 'listItem', content: [{ type: 'paragraph', content: inline(found.words) }] };
    if (last?.type === found.list) last.content?.push(item);
    else blocks.push({ type: found.list, content: [item] });
  } else if (last?.type === 'paragraph') last.content?.push({ type: 'hardBreak' }, ...inline(line));
  else blocks.push({ type: 'paragraph', content: inline(line) });
}

/** A template as the editor shows it: no braces, no signs. */
export function docOf(template: string): DocNode {
  const blocks: DocNode[] = [];
  let isOpen = false;
  for (const line of template.replaceAll(WHAT_CHANGED, `\n${CHANGED_SIGN}\n`).split('\n')) {
    const isText = line !== CHANGED_SIGN && line.trim() !== '';
    if (line === CHANGED_SIGN) blocks.push({ type: 'whatChanged' });
    if (isText) putLine(blocks, line, isOpen);
    isOpen = isText;
  }
  return { type: 'doc', content: blocks.length > 0 ? blocks : [{ type: 'paragraph' }] };
}

const markOf = (node: DocNode, type: string) => node.marks?.find((mark) => mark.type === type);

function bareInline(node: DocNode): string {
  switch (node.type) {
    case 'placeholder':
      return `{{ ${String(node.attrs?.name)} }}`;
    case 'raw':
      return String(node.attrs?.source);
    case 'hardBreak':
      return '\n';
    default:
      return node.text ?? '';
  }
}

/** Runs of one look stand together: their signs are put round all of them. */
function runs(nodes: readonly DocNode[], type: 'bold' | 'link', say: (nodes: DocNode[]) => string): string {
  const groups: { href: unknown; isMarked: boolean; nodes: DocNode[] }[] = [];
  for (const node of nodes) {
    const mark = node.type === 'hardBreak' ? undefined : markOf(node, type);
    const last = groups.at(-1);
    const href = mark?.attrs?.href;
    if (last && last.isMarked === Boolean(mark) && last.href === href) last.nodes.push(node);
    else groups.push({ href, isMarked: Boolean(mark), nodes: [node] });
  }
  return groups
    .map(({ href, isMarked, nodes: own }) => {
      const said = say(own);
      if (!isMarked || said.trim() === '') return said;
      // Signs stand at words, never at the spaces round them.
      const [, before = '', words = '', after = ''] = /^(\s*)([\s\S]*?)(\s*)$/.exec(said) ?? [];
      return type === 'bold' ? `${before}**${words}**${after}` : `${before}[${words}](${String(href)})${after}`;
    })
    .join('');
}

const inlineText = (nodes: readonly DocNode[] = []): string =>
  runs(nodes, 'link', (linked) => runs(linked, 'bold', (bold) => bold.map(bareInline).join('')));

function blockText(node: DocNode): string {
  const items = () =>
    (node.content ?? []).map((item) => (item.content ?? []).map((part) => inlineText(part.content)).join(' '));
  switch (node.type) {
    case 'whatChanged':
      return WHAT_CHANGED;
    case 'bulletList':
      return items()
        .map((words) => `- ${words}`)
        .join('\n');
    case 'orderedList':
      return items()
        .map((words, at) => `${at + 1}. ${words}`)
        .join('\n');
    default:
      return inlineText(node.content);
  }
}

/** What stands in the editor as a template; the empty string where nothing does. */
export const templateOf = (doc: DocNode): string =>
  (doc.content ?? [])
    .map(blockText)
    .filter((text) => text.trim() !== '')
    .join('\n\n');

/** The same of one line: no paragraphs, no lists. */
export const lineTemplateOf = (doc: DocNode): string => templateOf(doc).replace(/\s*\n\s*/g, ' ');

/** A text whose every sign means itself, with placeholders among it: each of its lines is a paragraph. */
export const verbatimDocOf = (template: string): DocNode => ({
  type: 'doc',
  content: template.split('\n').map((line) => ({ type: 'paragraph', content: plainInline(line, []) })),
});
/** What was written so, line by line. */
export const verbatimTemplateOf = (doc: DocNode): string =>
  (doc.content ?? []).map(({ content = [] }) => content.map(bareInline).join('')).join('\n');
