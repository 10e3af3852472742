<script setup lang="ts">
import { chooseCamera } from '@tender-orbit/core/document';
import { mdiBrightness5, mdiVideoOutline, mdiVideoPlusOutline } from '@mdi/js';
import { useResizeObserver } from '@vueuse/core';
import { computed, onMounted, ref, watch } from 'vue';
import { useCampaign, useDocuments, usePlayhead, useSelection, useStage } from '../stores/index.ts';
import { useActions, useHandlers } from '../actions/index.ts';
import { useThingMenu } from '../set/use-thing-menu.ts';
import { artIn, LOADED } from './loaded.ts';
import LooksMenu from './LooksMenu.vue';
import MotionMarks from './MotionMarks.vue';
import PictureGuides from './PictureGuides.vue';
import ShotSwitch from './ShotSwitch.vue';
import SideView from './SideView.vue';
import type { Vec3 } from '@tender-orbit/core/geometry';
import { effectBox } from '@tender-orbit/core/simulate';
import { useEffects } from '../effects/index.ts';
import TracedPicture from './TracedPicture.vue';
import { DRAWINGS, HANDLES, SET_MENU, type Drawing } from './stage-choices.ts';
import { useFilm } from './film.ts';
import FilmPicture from './FilmPicture.vue';
import { useGhosts } from './use-ghosts.ts';
import { useFraming } from './use-framing.ts';
import { useMeasure } from './use-measure.ts';
import { useStageHandles } from './use-stage-handles.ts';
import { useStageView } from './use-stage-view.ts';
import { useTableau } from './use-tableau.ts';
import { IconButton, MenuButton, ToggleRow, openContextMenu } from '../ui/index.ts';

const { marks = false } = defineProps<{ /** Shows ways, keys, paths and nulls over the picture. */ marks?: boolean }>();
const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const selection = useSelection();
const stage = useStage();
const effects = useEffects();
const tableau = useTableau();
const film = useFilm();
const sheet = ref<HTMLElement>();
const surround = ref<HTMLElement>();
const cameras = computed(() =>
  (campaign.set?.cameras ?? []).map(({ id, name }) => ({ title: name, run: () => lookThrough(id) })),
);
const actions = useActions();
const menuFor = useThingMenu();
const { frameProducts } = useFraming();
const drawing = ref<Drawing>('lit');
const clay = computed(() => drawing.value === 'clay');
const guides = ref<string[]>([]);
const mask = ref('');
const split = ref(false);
const metering = ref(false);
/** From above, in front or the side; the shot's camera stays. */
function lookFrom(side: 'top' | 'front' | 'right'): void {
  drawing.value = drawing.value === 'traced' ? 'lit' : drawing.value;
  view.value?.lookFrom(side);
  through.value = false;
}
const through = ref(true);
const mode = ref<'move' | 'turn'>('move');
const size = ref({ width: 0, height: 0 });
/** Frames drawn so far: what lies over the picture follows. */
const drawn = ref(0);
/** What a seated product's height is counted from. */
const lift = computed(() => {
  const matrix = tableau.value?.instances.find((i) => i.id === stage.selected)?.matrix;
  return matrix ? matrix[13] - stage.number(stage.selected, 'position.1') : 0;
});

const handles = useStageHandles(tableau, mode, through);
const ghosts = useGhosts(() => marks);

function setPosition(id: string, position: [number, number, number], gesture: string): void {
  selection.place(id, position, `Move ${stage.thing?.name ?? id}`, gesture, tableau.value);
}

const { measuring, take: takeMeasure } = useMeasure();

/** The free view becomes the camera's place. */
function placeCamera(): void {
  const viewpoint = view.value?.viewpoint();
  const camera = campaign.camera;
  if (!viewpoint || !camera) return;
  const numbers = (['position', 'aim'] as const).flatMap((point) =>
    viewpoint[point].map((value, axis) => [`${point}.${axis}`, value] as const),
  );
  stage.setValues(camera.id, Object.fromEntries(numbers), `Place ${camera.name}`);
  through.value = true;
}

/** The picture area: as large as fits, at the campaign's proportion. */
useResizeObserver(surround, ([entry]) => {
  const { width, height } = entry.contentRect;
  const w = Math.min(width, height * campaign.aspect);
  size.value = { width: Math.floor(w), height: Math.floor(w / campaign.aspect) };
  view.value?.resize(size.value.width, size.value.height);
});

const { view, broken } = useStageView(
  sheet,
  {
    pick: (id, more) => selection.pick(id, more),
    menu: openMenu,
    mark: (spot) => takeMeasure(spot.point) || stage.placeHighlight(spot),
    move: setPosition,
    turn: (id, degrees, gesture) => stage.setNumber(id, 'turn', degrees, `Turn ${stage.thing?.name ?? id}`, gesture),
    leaveCamera: () => (through.value = false),
    drawn: () => void drawn.value++,
  },
  () => ({
    'data-test': 'stage',
    ...{ tabindex: '0', role: 'img', 'aria-label': `The set at frame ${playhead.frame + 1}` },
    class: stage.highlighting ? 'aiming' : '',
  }),
);
onMounted(() => view.value?.resize(size.value.width, size.value.height));

/** The unit cube to what an effect in hand fills: the domain of smoke, the box that particles come from. */
const domain = computed((): number[] | null => {
  const effect = stage.posed?.effects.find((e) => e.id === stage.selected);
  if (!effect || !tableau.value) return null;
  const box = effectBox(effect, effects.levelOf(effect.id), placeOf);
  if (!box) return null;
  const [[x, y, z], [w, h, d]] = box;
  return [w, 0, 0, 0, 0, h, 0, 0, 0, 0, d, 0, x, y, z, 1];
});
function placeOf(id: string): Vec3 | undefined {
  const found = [...tableau.value!.instances, ...tableau.value!.surfaces].find((thing) => thing.id === id);
  return found && [found.matrix[12], found.matrix[13], found.matrix[14]];
}

watch(
  [
    view,
    tableau,
    drawing,
    () => stage.selected,
    handles,
    through,
    domain,
    ghosts,
    () => tableau.value && artIn(tableau.value),
  ],
  show,
  { immediate: true },
);
function show(): void {
  if (!view.value || !tableau.value) return;
  // What plays from the preview is drawn already.
  if (playhead.playing && film.pictureAt(playhead.frame)) return;
  view.value.show({
    tableau: tableau.value,
    clay: clay.value,
    selected: stage.selected,
    handles: handles.value,
    throughCamera: through.value,
    loaded: LOADED,
    domain: domain.value,
    ghosts: ghosts.value,
    covered: drawing.value === 'traced' && through.value,
  });
}

/** A traced picture is the take's: it is seen through the shot's camera. */
function choose(key: Drawing): void {
  drawing.value = key;
  if (key === 'traced') through.value = true;
}

function lookThrough(id: string): void {
  documents.run('shot', campaign.shotId, chooseCamera(id));
  through.value = true;
}
useHandlers({
  'view.lit': () => choose('lit'),
  'view.clay': () => choose('clay'),
  'view.traced': () => choose('traced'),
  'view.camera': { run: () => (through.value = true), enabled: () => !through.value },
  'view.top': () => lookFrom('top'),
  'view.front': () => lookFrom('front'),
  'view.right': () => lookFrom('right'),
  'view.side': () => (split.value = !split.value),
  'view.measure': () => (measuring.value = !measuring.value),
  'view.place-camera': { run: placeCamera, enabled: () => !through.value },
  'view.frame': { run: frameProducts, enabled: () => campaign.camera !== undefined },
  'handles.move': () => (mode.value = 'move'),
  'handles.turn': () => (mode.value = 'turn'),
});

/** What can be done with a thing, or with the set where nothing was pressed. */
function openMenu(id: string, event: MouseEvent | KeyboardEvent): void {
  openContextMenu(event, id ? menuFor(id) : actions.lines(SET_MENU));
}
</script>

<template>
  <section class="viewer" aria-label="Viewer">
    <div class="head row">
      <ShotSwitch />
      <MenuButton v-if="campaign.set" tip="Camera of this shot" :lines="cameras">
        {{ campaign.camera?.name ?? 'No camera' }}
        <span v-if="campaign.camera" class="mono dim"
          >{{ Math.round(stage.number(campaign.camera.id, 'focalLength')) }} mm f/{{ campaign.camera.fNumber }}</span
        >
      </MenuButton>
      <span class="spread" />
      <template v-if="!through">
        <IconButton :icon="mdiVideoOutline" label="Back to the camera" @click="through = true" />
        <IconButton :icon="mdiVideoPlusOutline" label="Bring the camera here" @click="placeCamera" />
      </template>
      <ToggleRow label="Handles" :options="HANDLES" :value="mode" @change="(m) => (mode = m)" />
      <LooksMenu
        v-model:guides="guides"
        v-model:mask="mask"
        v-model:split="split"
        v-model:through="through"
        v-model:measuring="measuring"
        :ghosts="marks"
        @look="lookFrom"
      />
      <IconButton
        v-if="drawing === 'traced'"
        :icon="mdiBrightness5"
        label="Meter"
        :pressed="metering"
        data-test="meter"
        @click="metering = !metering"
      />
      <ToggleRow label="How the viewer draws" :options="DRAWINGS" :value="drawing" @change="choose" />
    </div>
    <div class="views" :class="{ split }">
      <div ref="surround" class="surround">
        <p v-if="broken" role="alert" class="pa-6">{{ broken }}</p>
        <div class="picture" :style="{ width: `${size.width}px`, height: `${size.height}px` }">
          <div
            ref="sheet"
            class="sheet"
            @contextmenu.prevent
            @keydown.shift.f10.prevent="openMenu(stage.selected, $event)"
            @keydown.context-menu.prevent="openMenu(stage.selected, $event)"
          ></div>
          <TracedPicture
            v-if="drawing === 'traced' && through && tableau && !playhead.playing"
            :tableau="tableau"
            :width="size.width"
            :height="size.height"
            :meter="metering"
          />
          <FilmPicture v-if="film.wanted && through && drawing !== 'traced'" :view="view" :clay="clay" @done="show" />
          <MotionMarks v-if="marks && view && !playhead.playing" :view="view" :drawn="drawn" :lift="lift" />
          <PictureGuides
            v-if="through && (guides.length || mask)"
            :guides="guides"
            :mask="mask"
            :aspect="campaign.aspect"
          />
        </div>
        <slot />
      </div>
      <SideView v-if="split" />
    </div>
  </section>
</template>

<style scoped>
.head {
  gap: 6px;
}
.switch {
  display: flex;
  flex: none;
  background: var(--ink-2);
  border-radius: 6px;
}
.picture {
  position: relative;
}
/* The viewer's canvas is no part of the template. */
.sheet,
.sheet :deep(canvas) {
  display: block;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.sheet :deep(canvas.aiming) {
  cursor: crosshair;
}
.views {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  min-height: 0;
}
.views.split {
  grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
}
</style>
