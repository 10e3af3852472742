import { configFromEnvironment, startServer } from '@tender-orbit/server';
import { DEMO_PERSON } from '@tender-orbit/demo';
import { loadDemo } from './load-demo.ts';

const running = await startServer(configFromEnvironment(), async (context) => {
  if (await loadDemo(context)) console.log('The demo campaign has been loaded.');
});
console.log(
  `\nTender Orbit is ready at ${running.address}\nSign in as ${DEMO_PERSON.email} with the password ${DEMO_PERSON.password}\nPress Ctrl+C to stop.\n`,
);

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    console.log('Stopping...');
    void running.stop().then(() => process.exit(0));
  });
}
