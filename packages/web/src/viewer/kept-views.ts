import { StageView, type StagePicture, type StageViewEvents } from './stage-view.ts';

/** Viewers that nobody looks through now: the next station finds programs, geometry and art where they are. */
const kept: StageView[] = [];
/** As many as are looked through at once. */
const MOST = 2;
let opened = false;

/** A viewer to look through. Throws where there is no WebGL2. */
export function openView(events: StageViewEvents): StageView {
  opened = true;
  let view = kept.pop();
  if (view?.isLost) {
    view.dispose();
    view = undefined;
  }
  view ??= new StageView();
  view.start(events);
  return view;
}

/** Gives a viewer back. */
export function closeView(view: StageView): void {
  view.stop();
  view.canvas.remove();
  if (kept.length < MOST) kept.push(view);
  else view.dispose();
}

/** Readies a viewer for a picture while no station has had one. @param pause ends when the browser has nothing else to do. */
export async function warmView(picture: StagePicture, pause: () => Promise<void>): Promise<void> {
  if (opened || kept.length > 0) return;
  const view = new StageView();
  kept.push(view);
  await view.warm(picture, pause);
}
