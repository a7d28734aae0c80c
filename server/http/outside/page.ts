import { createHash } from 'node:crypto';
import type { Request, Response } from 'express';
import { escapeHtml, type Phrases } from '../../../core/messages/index.ts';
import type { Context } from '../context.ts';

/** A page that stands alone: no script, no account, sound on a telephone. The parts are HTML already. */
export interface OutsidePage {
  status?: number;
  title: string;
  parts: string[];
}

/** A page in the language of whoever opens it. */
export interface Shown {
  page: OutsidePage;
  phrases: Phrases;
}

/** Answers a request with the page that it asks for. */
export const shows =
  (context: Context, make: (context: Context, request: Request) => Promise<Shown>) =>
  async (request: Request, response: Response): Promise<void> => {
    const { page, phrases } = await make(context, request);
    sendPage(response, page, context.site.name, phrases);
  };

/** What a link led to that leads nowhere any more. */
export const gonePage = (phrases: Phrases): Shown => ({
  phrases,
  page: { status: 410, title: phrases.say('page.gone'), parts: [] },
});

// The tokens of the theme, in both its lights; pages behind a link load nothing.
const STYLE = `:root{color-scheme:light dark;--ground:#f5f4ee;--sheet:#fffefb;--ink:#17211c;--soft:#56615a;--line:#dcddd3;--on-ink:#fffefb;--bad:#b3261e}
@media (prefers-color-scheme:dark){:root{--ground:#111713;--sheet:#18201b;--ink:#eef0e8;--soft:#aab3ac;--line:#2b352f;--on-ink:#111713;--bad:#ff9c8f}}
*{box-sizing:border-box}body{margin:0;background:var(--ground);color:var(--ink);font:16px/1.5 'Instrument Sans','Helvetica Neue',Arial,sans-serif}
main{max-width:34rem;margin:0 auto;padding:2rem 1.5rem 3rem}@media (min-width:40rem){main{margin-top:8vh;background:var(--sheet);border-top:4px solid var(--ink)}}
.site{margin:0 0 2rem;color:var(--soft);font-size:.9rem}h1{margin:0 0 .75rem;font:700 1.6rem/1.2 'Bricolage Grotesque','Instrument Sans','Helvetica Neue',Arial,sans-serif;letter-spacing:-.01em;overflow-wrap:anywhere}
p{margin:0 0 1rem;overflow-wrap:anywhere}.quiet{color:var(--soft)}ul{margin:0 0 1rem;padding:0;list-style:none;border-top:1px solid var(--line)}li{padding:.6rem 0;border-bottom:1px solid var(--line);overflow-wrap:anywhere}
mark{background:#ffc533;color:#17211c;padding:0 .25rem}s{color:var(--soft)}form{margin:1.5rem 0 0;display:flex;flex-direction:column;gap:.75rem;align-items:flex-start}
fieldset{border:0;margin:0;padding:0}.field,fieldset{display:flex;flex-direction:column;gap:.25rem;width:100%}legend{padding:0}input:not([type=checkbox]),select,textarea{font:inherit;color:inherit;background:var(--ground);border:1px solid var(--soft);border-radius:4px;padding:.5rem .6rem;width:100%;min-height:2.75rem}form [aria-invalid]{border-color:var(--bad)}.fault{color:var(--bad);margin:0}
button{font:inherit;font-weight:600;min-height:2.75rem;padding:.5rem 1.25rem;border:1px solid var(--ink);border-radius:4px;background:none;color:var(--ink);cursor:pointer;text-align:left}
button.first{background:var(--ink);color:var(--on-ink)}a{color:var(--ink)}:focus-visible{outline:3px solid #ffc533;outline-offset:2px}`;

// The one style of these pages, and none that somebody slips in.
const STYLE_POLICY = `'sha256-${createHash('sha256').update(STYLE).digest('base64')}'`;

export function sendPage(
  response: Response,
  { status = 200, title, parts }: OutsidePage,
  site: string,
  phrases: Phrases,
): void {
  response
    .status(status)
    .set('cache-control', 'no-store')
    .set('x-robots-tag', 'noindex')
    .set('content-security-policy', policyWith(response))
    .type('html')
    .send(`<!doctype html>
<html lang="${phrases.language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeHtml(title)}</title><style>${STYLE}</style></head>
<body><main><p class="site">${escapeHtml(site)}</p><h1>${escapeHtml(title)}</h1>
${parts.join('\n')}
</main></body></html>`);
}

export const paragraph = (text: string, isQuiet = false): string =>
  text === '' ? '' : `<p${isQuiet ? ' class="quiet"' : ''}>${escapeHtml(text)}</p>`;

/** A form whose buttons are its only fields: what is pressed is what is sent. */
export const pressing = (buttons: { name: string; value: string; words: string; isFirst?: boolean }[]): string =>
  `<form method="post">${buttons.map(({ name, value, words, isFirst }) => `<button${isFirst ? ' class="first"' : ''} name="${escapeHtml(name)}" value="${escapeHtml(value)}">${escapeHtml(words)}</button>`).join('')}</form>`;

/** The policy of all pages, with the one style of these allowed. */
const policyWith = (response: Response): string =>
  String(response.get('content-security-policy') ?? '').replace(/style-src[^;]*/, `style-src ${STYLE_POLICY}`);
