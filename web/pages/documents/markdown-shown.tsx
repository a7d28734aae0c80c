import DOMPurify from 'dompurify';
import { marked } from 'marked';
import { useMemo } from 'react';

/** What a text in Markdown may become: words, lists, tables and links, nothing that loads or runs. */
const ALLOWED = {
  ALLOWED_TAGS: [
    ...['h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'p', 'br', 'hr', 'strong', 'em', 'del', 'code', 'pre', 'blockquote'],
    ...['ul', 'ol', 'li', 'table', 'thead', 'tbody', 'tr', 'th', 'td', 'a'],
  ],
  ALLOWED_ATTR: ['href', 'start'],
  ALLOWED_URI_REGEXP: /^(https?:|mailto:)/i,
};

/** A heading of a document stands below those of the page. */
const lowered = (html: string): string =>
  html.replace(/<(\/?)h([1-6])>/g, (_, end: string, level: string) => `<${end}h${Math.min(6, Number(level) + 3)}>`);

/** A document in Markdown, as it is meant to look. */
export default function MarkdownShown({ text }: { text: string }) {
  const html = useMemo(
    () => lowered(DOMPurify.sanitize(marked.parse(text, { async: false, gfm: true }), ALLOWED)),
    [text],
  );
  // biome-ignore lint/security/noDangerouslySetInnerHtml: it has been cleaned of all but words, lists, tables and links
  return <div className="document-markdown" dangerouslySetInnerHTML={{ __html: html }} />;
}
