import { GlobalRegistrator } from '@happy-dom/global-registrator';

/*
 * A page without a browser: what components need to be mounted. It must be the first import of a test, since Vue looks for
 * the document as it is loaded.
 */
const { setTimeout, setInterval, setImmediate, clearTimeout, clearInterval, clearImmediate, queueMicrotask } =
  globalThis;
GlobalRegistrator.register({ url: 'http://tender-orbit.test/', width: 1280, height: 800 });
// Mocha and Node keep their own clocks: those of the page end with it.
Object.assign(globalThis, {
  ...{ setTimeout, setInterval, setImmediate, clearTimeout, clearInterval, clearImmediate, queueMicrotask },
  visualViewport: globalThis.visualViewport ?? window,
  // Pictures that are traced in workers never come.
  Worker: class {
    postMessage(): void {}
    addEventListener(): void {}
    terminate(): void {}
  },
});
// Nothing is laid out here, so nothing lies under a point.
document.elementsFromPoint ??= () => [];
