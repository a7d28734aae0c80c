import { createHash } from 'node:crypto';
import { Router } from 'express';

/**
 * The empty page in which an email is shown. An email brings its styles with it, which Ojo's own pages allow nobody, so
 * that it is handed into this one; nothing in it runs but the script that takes it from the page around it.
 */
const SCRIPT = `addEventListener('message', ({ source, data }) => {
  if (source !== parent || typeof data !== 'string') return;
  const shown = new DOMParser().parseFromString(data, 'text/html').documentElement;
  document.replaceChild(document.adoptNode(shown), document.documentElement);
});
parent.postMessage('ready', '*');`;
const PAGE = `<!doctype html><meta charset="utf-8"><title>·</title><script>${SCRIPT}</script>`;
const POLICY = [
  "default-src 'none'",
  `script-src 'sha256-${createHash('sha256').update(SCRIPT).digest('base64')}'`,
  "style-src 'unsafe-inline'",
  'img-src data:',
  "frame-ancestors 'self'",
  "base-uri 'self'",
  "form-action 'none'",
  'sandbox allow-scripts allow-popups allow-top-navigation-by-user-activation',
].join('; ');

export function mailFrame(): Router {
  const routes = Router();
  routes.get('/mail-frame', (_request, response) => {
    response.set('content-security-policy', POLICY).set('cache-control', 'no-cache').type('html').send(PAGE);
  });
  return routes;
}
