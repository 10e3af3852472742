import { onBeforeUnmount, onMounted, ref, shallowRef, watchEffect, type Ref, type ShallowRef } from 'vue';
import { closeView, openView } from './kept-views.ts';
import type { StageView, StageViewEvents } from './stage-view.ts';

/**
 * A viewer for as long as a component is there. Its canvas, which outlives the component, is the first child of `holder`.
 * @param attributes of the canvas.
 */
export function useStageView(
  holder: Ref<HTMLElement | undefined>,
  events: StageViewEvents,
  attributes: () => Record<string, string>,
): { view: ShallowRef<StageView | undefined>; broken: Ref<string> } {
  const view = shallowRef<StageView>();
  const broken = ref('');
  const given = new Set<string>();
  onMounted(() => {
    try {
      view.value = openView(events);
      holder.value?.prepend(view.value.canvas);
    } catch {
      broken.value = 'This browser offers no WebGL2, so the viewer cannot draw: takes still render on the server.';
    }
  });
  watchEffect(() => {
    for (const [name, value] of Object.entries(attributes())) {
      view.value?.canvas.setAttribute(name, value);
      given.add(name);
    }
  });
  onBeforeUnmount(() => {
    if (!view.value) return;
    for (const name of given) view.value.canvas.removeAttribute(name);
    closeView(view.value);
  });
  return { view, broken };
}
