// Worker threads start without the TypeScript loader of the main thread: load it, then the worker.
import { register } from 'tsx/esm/api';

register();
const { doTask } = await import('./solve-worker.ts');
export default doTask;
