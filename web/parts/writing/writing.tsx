import {
  type Editor,
  Node,
  EditorContent,
  type NodeViewProps,
  NodeViewWrapper,
  ReactNodeViewRenderer,
  useEditor,
} from '@tiptap/react';
import { StarterKit } from '@tiptap/starter-kit';
import { createContext, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { Button, Dropdown, Form } from 'react-bootstrap';
import type { Source } from '../../../core/values/index.ts';
import { t } from '../../words/writing.ts';
import { useViewer } from '../viewer.tsx';
import { placeholderName } from './placeholder-names.ts';
import { type DocNode, docOf, lineTemplateOf, templateOf, verbatimDocOf, verbatimTemplateOf } from './template-doc.ts';

interface Naming {
  /** What each placeholder stands for just now, by name, where something is tried. */
  values: Record<string, string>;
  nameOf: (name: string) => string;
}
const Context = createContext<Naming>({ values: {}, nameOf: (name) => name });

/** A placeholder as a token: the real value where one is known, else what it is called. */
function Token({ node }: NodeViewProps) {
  const { values, nameOf } = useContext(Context);
  const name = String(node.attrs.name);
  const called = nameOf(name);
  return (
    <NodeViewWrapper as="span" className="token" title={called}>
      {values[name] || called}
    </NodeViewWrapper>
  );
}

const Piece = () => (
  <NodeViewWrapper as="span" className="token is-piece">
    {t('piece')}
  </NodeViewWrapper>
);
const Changed = () => (
  <NodeViewWrapper as="div" className="token is-block">
    {t('whatChangedSays')}
  </NodeViewWrapper>
);

const Placeholder = Node.create({
  name: 'placeholder',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ name: { default: '' } }),
  parseHTML: () => [
    { tag: 'span[data-placeholder]', getAttrs: (node) => ({ name: (node as HTMLElement).dataset.placeholder }) },
  ],
  renderHTML: ({ node }) => ['span', { 'data-placeholder': String(node.attrs.name) }],
  addNodeView: () => ReactNodeViewRenderer(Token),
});
const Raw = Node.create({
  name: 'raw',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ source: { default: '' } }),
  renderHTML: () => ['span', {}],
  addNodeView: () => ReactNodeViewRenderer(Piece),
});
const WhatChanged = Node.create({
  name: 'whatChanged',
  group: 'block',
  atom: true,
  parseHTML: () => [{ tag: 'div[data-what-changed]' }],
  renderHTML: () => ['div', { 'data-what-changed': '' }],
  addNodeView: () => ReactNodeViewRenderer(Changed),
});

/** Where a link may lead: to the web, to a mailbox, or along one of the ways that each message has. */
const isWay = (href: string): boolean => /^(https?:\/\/\S+\.\S+|mailto:\S+@\S+|\{\{ links\.\w+ \}\})$/.test(href);

export interface WritingProps {
  label: string;
  id?: string;
  /** A template (Liquid, with signs for what stands out); what is written comes back as one. */
  value: string;
  onChange: (template: string) => void;
  /** The placeholders there are, by name, and the sources that their fields are of; none where the text has none. */
  names: readonly string[];
  sources: readonly Source[];
  values?: Record<string, string>;
  /** One line: a subject, or what to do now. */
  isLine?: boolean;
  /** Neither bold nor links, as in a subject. */
  isPlain?: boolean;
  /** Every sign means itself, as in what a machine is posted: lines and placeholders alone. */
  isVerbatim?: boolean;
  isInvalid?: boolean;
}

/** Where words are written as they will look: what stands out, lists, links, and placeholders as tokens. */
export default function Writing(props: WritingProps) {
  const {
    label,
    id,
    value,
    onChange,
    names,
    sources,
    values = {},
    isLine = false,
    isVerbatim = false,
    isPlain = isVerbatim,
    isInvalid = false,
  } = props;
  const { directory } = useViewer();
  const naming = useMemo<Naming>(
    () => ({ values, nameOf: (name) => placeholderName(name, sources, directory.sources) }),
    [values, sources, directory.sources],
  );
  const read = isVerbatim ? verbatimDocOf : docOf;
  const written = writerOf(isLine, isVerbatim);
  const given = useRef(value);
  const change = useRef(onChange);
  change.current = onChange;
  const editor = useEditor({
    extensions: extensionsOf(isLine, isPlain, isVerbatim),
    content: read(value),
    // Its styles stand with the others; a page has none of its own.
    injectCSS: false,
    editorProps: {
      attributes: { role: 'textbox', 'aria-label': label, 'aria-multiline': String(!isLine), ...(id ? { id } : {}) },
      handleKeyDown: (_view, event) => isLine && event.key === 'Enter',
    },
    onUpdate: ({ editor: now }) => {
      given.current = written(now.getJSON() as DocNode);
      change.current(given.current);
    },
  });
  // What comes from elsewhere, as by an undo, is shown in place of what stood there.
  useEffect(() => {
    if (!editor || given.current === value) return;
    given.current = value;
    editor.commands.setContent(read(value), { emitUpdate: false });
  }, [editor, value, read]);
  if (!editor) return null;
  return (
    <Context.Provider value={naming}>
      <div className={`writing${isLine ? ' is-line' : ''}${isInvalid ? ' is-invalid' : ''}`}>
        <Tools
          editor={editor}
          label={label}
          names={names}
          isLine={isLine || isVerbatim}
          isPlain={isPlain}
          nameOf={naming.nameOf}
        />
        <EditorContent editor={editor} className="form-control" />
      </div>
    </Context.Provider>
  );
}

/** What can stand in the editor. */
const extensionsOf = (isLine: boolean, isPlain: boolean, isVerbatim: boolean) => [
  StarterKit.configure({
    heading: false,
    blockquote: false,
    code: false,
    codeBlock: false,
    strike: false,
    italic: false,
    underline: false,
    horizontalRule: false,
    ...(isLine || isVerbatim ? { bulletList: false, orderedList: false, listItem: false, hardBreak: false } : {}),
    ...(isPlain
      ? { bold: false, link: false as const }
      : { link: { openOnClick: false, autolink: false, isAllowedUri: isWay } }),
  }),
  Placeholder,
  Raw,
  ...(isLine || isVerbatim ? [] : [WhatChanged]),
];

/** How what stands in the editor becomes a template again. */
function writerOf(isLine: boolean, isVerbatim: boolean): (doc: DocNode) => string {
  if (isVerbatim) return verbatimTemplateOf;
  return isLine ? lineTemplateOf : templateOf;
}

interface ToolsProps extends Pick<WritingProps, 'label' | 'names' | 'isLine' | 'isPlain'> {
  editor: Editor;
  nameOf: (name: string) => string;
}

function Tools({ editor, label, names, isLine, isPlain, nameOf }: ToolsProps) {
  const [isLinking, setLinking] = useState(false);
  const run = () => editor.chain().focus();
  const tool = (words: string, isOn: boolean, act: () => void) => (
    <Button variant="quiet" size="sm" aria-pressed={isOn} className={isOn ? 'is-on' : ''} onClick={act}>
      {words}
    </Button>
  );
  return (
    <>
      <div className="tools" role="toolbar" aria-label={t('marks')}>
        <span className="form-label">{label}</span>
        {!isPlain && tool(t('bold'), editor.isActive('bold'), () => run().toggleBold().run())}
        {!isLine && tool(t('list'), editor.isActive('bulletList'), () => run().toggleBulletList().run())}
        {!isLine && tool(t('numbered'), editor.isActive('orderedList'), () => run().toggleOrderedList().run())}
        {!isPlain && tool(t('link'), editor.isActive('link'), () => setLinking(!isLinking))}
        {!isLine &&
          names.length > 0 &&
          tool(t('whatChanged'), false, () => run().insertContent({ type: 'whatChanged' }).run())}
        {names.length > 0 && (
          <Dropdown>
            <Dropdown.Toggle variant="quiet" size="sm" aria-label={t('putInto', { label: label.toLowerCase() })}>
              {t('putIn')}
            </Dropdown.Toggle>
            <Dropdown.Menu className="is-long">
              {names.map((name) => (
                <Dropdown.Item
                  key={name}
                  onClick={() => run().insertContent({ type: 'placeholder', attrs: { name } }).run()}
                >
                  {nameOf(name)}
                </Dropdown.Item>
              ))}
            </Dropdown.Menu>
          </Dropdown>
        )}
      </div>
      {isLinking && <Linking editor={editor} names={names} nameOf={nameOf} onDone={() => setLinking(false)} />}
    </>
  );
}

/** Makes the chosen words a link: to an address, or to one of the ways that each message has. */
function Linking({
  editor,
  names,
  nameOf,
  onDone,
}: Pick<ToolsProps, 'editor' | 'names' | 'nameOf'> & { onDone: () => void }) {
  const [address, setAddress] = useState(String(editor.getAttributes('link').href ?? ''));
  const [fault, setFault] = useState<string | null>(null);
  const ways = names.filter((name) => name.startsWith('links.'));
  const put = (href: string) => {
    if (editor.state.selection.empty && !editor.isActive('link')) return setFault(t('noWords'));
    if (!isWay(href)) return setFault(t('noWebAddress'));
    editor.chain().focus().extendMarkRange('link').setLink({ href }).run();
    onDone();
  };
  return (
    <div className="linking">
      <Form.Control
        size="sm"
        aria-label={t('linkTo')}
        placeholder="https://"
        value={address}
        isInvalid={fault !== null}
        onChange={(event) => {
          setAddress(event.target.value);
          setFault(null);
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          put(address.trim());
        }}
      />
      <Button size="sm" onClick={() => put(address.trim())}>
        {t('linkIt')}
      </Button>
      {editor.isActive('link') && (
        <Button
          variant="quiet"
          size="sm"
          onClick={() => {
            editor.chain().focus().extendMarkRange('link').unsetLink().run();
            onDone();
          }}
        >
          {t('unlink')}
        </Button>
      )}
      {fault !== null && (
        <p className="fault small" role="alert">
          {fault}
        </p>
      )}
      {ways.length > 0 && (
        <p className="small">
          <span className="quiet">{t('orTo')}</span>{' '}
          {ways.map((name) => (
            <Button key={name} variant="link" size="sm" onClick={() => put(`{{ ${name} }}`)}>
              {nameOf(name)}
            </Button>
          ))}
        </p>
      )}
    </div>
  );
}
