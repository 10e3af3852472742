type Task = { kind: string };

/** Does tasks that the parent sends, one after another; each kind of task has its own work. Ends with the parent. */
export function serveChild(works: Readonly<Record<string, (task: never) => Promise<unknown>>>): void {
  process.on('message', (task: Task) => {
    void (async () => {
      try {
        process.send!({ ok: true, value: await works[task.kind](task as never) });
      } catch (error) {
        const { name, code, message, thing } = error as Error & { code?: string; thing?: string };
        // Problems travel as plain data: what arrives has lost its class.
        process.send!(
          name === 'Problem' ? { ok: false, problem: { code, message, thing } } : { ok: false, reason: message },
        );
      }
    })();
  });
  process.on('disconnect', () => process.exit());
  process.send!({ ready: true });
}
