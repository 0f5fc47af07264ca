import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/umd/node-adapter';
// Here and beside it without "node:", for the bundler knows a thread's module by this name alone.
import { parentPort } from 'worker_threads';
import { work } from './work';

if (parentPort) expose(work, nodeEndpoint(parentPort));
