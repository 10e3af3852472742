export { RunNode } from './run-node.ts';
export { RunQueue } from './run-queue.ts';
export { simulationRunRoutes } from './routes.ts';
