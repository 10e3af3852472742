export * from './rule-values.ts';
export * from './value-rules.ts';
export * from './thing-rules.ts';
export * from './place-step.ts';
