// Open pages, in a thread of their own: notes which of them gets a server-sent event, and at which instant it is there.
import { Agent, request } from 'node:http';
import { parentPort, workerData } from 'node:worker_threads';

/** @type {{ port: number, path: string, cookies: string[], wanted: string }} */
const { port, path, cookies, wanted } = workerData;
const agent = new Agent({ keepAlive: true, maxSockets: cookies.length });
let open = 0;
const pages = cookies.map((cookie, page) => {
  const asking = request({ port, path, agent, host: '127.0.0.1', headers: { cookie } }, (response) => {
    response.setEncoding('utf8');
    open += 1;
    if (open === cookies.length) parentPort?.postMessage('open');
    let rest = '';
    response.on('data', (/** @type {string} */ text) => {
      const at = performance.timeOrigin + performance.now();
      const events = (rest + text).split('\n\n');
      rest = events.pop() ?? '';
      for (const event of events)
        if (event.startsWith(`event: ${wanted}\n`)) parentPort?.postMessage({ page, at, text: event });
    });
    response.on('error', () => undefined);
  });
  asking.on('error', () => undefined);
  asking.end();
  return asking;
});
parentPort?.on('message', () => {
  for (const page of pages) page.destroy();
  parentPort?.close();
});
