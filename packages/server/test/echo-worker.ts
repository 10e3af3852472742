import { parentPort } from 'node:worker_threads';

/** Doubles what it is sent, and never ends by itself. */
parentPort!.on('message', (n: number) => parentPort!.postMessage(n * 2));
