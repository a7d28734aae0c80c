// An open page, in a thread of its own: notes the instant at which each server-sent event is there.
import { request } from 'node:http';
import { parentPort, workerData } from 'node:worker_threads';

const { port, path, cookie, wanted } = workerData;
const asking = request({ port, path, host: '127.0.0.1', headers: { cookie } }, (response) => {
  response.setEncoding('utf8');
  parentPort?.postMessage('open');
  response.on('data', (/** @type {string} */ text) => {
    const at = performance.timeOrigin + performance.now();
    if (text.includes(`event: ${wanted}\n`)) parentPort?.postMessage(at);
  });
  response.on('error', () => undefined);
});
asking.on('error', () => undefined);
asking.end();
parentPort?.on('message', () => {
  asking.destroy();
  parentPort?.close();
});
