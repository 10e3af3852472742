import { register } from 'tsx/esm/api';
import { workerData } from 'piscina';

// A worker does not take over its parent's module hooks, so the TypeScript loader is registered inside it.
register();
const { default: work } = await import(workerData.url);

/** Problems travel as plain data: what a thread throws arrives without its class. */
export default async function run(task) {
  try {
    return { ok: true, value: await work(task) };
  } catch (error) {
    if (error?.name === 'Problem')
      return { ok: false, problem: { code: error.code, message: error.message, thing: error.thing } };
    throw error;
  }
}
