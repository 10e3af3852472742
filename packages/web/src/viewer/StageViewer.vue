<script setup lang="ts">
import { chooseCamera, findThing, propertyOf, type Point } from '@tender-orbit/core/document';
import { mdiArrowAll, mdiRotate360, mdiVideoOutline, mdiVideoPlusOutline } from '@mdi/js';
import { useResizeObserver } from '@vueuse/core';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import IconButton from '../controls/IconButton.vue';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSelection, useStage } from '../stores/index.ts';
import { artIn, LOADED } from './loaded.ts';
import LooksMenu from './LooksMenu.vue';
import PictureGuides from './PictureGuides.vue';
import ShotSwitch from './ShotSwitch.vue';
import SideView from './SideView.vue';
import { StageView } from './stage-view.ts';
import TracedPicture from './TracedPicture.vue';
import { useTableau } from './use-tableau.ts';

const campaign = useCampaign();
const documents = useDocuments();
const playhead = usePlayhead();
const notices = useNotices();
const selection = useSelection();
const stage = useStage();
const tableau = useTableau();
const canvas = ref<HTMLCanvasElement>();
const surround = ref<HTMLElement>();
const view = shallowRef<StageView>();
type Drawing = 'clay' | 'lit' | 'traced';
const DRAWINGS: Array<[Drawing, string]> = [
  ['clay', 'Clay'],
  ['lit', 'Lit'],
  ['traced', 'Traced'],
];
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
const broken = ref('');
const size = ref({ width: 0, height: 0 });

const handles = computed(() => {
  const set = stage.posed;
  const id = stage.selected;
  if (!set || !id || playhead.playing) return null;
  const found = findThing(set, id);
  if (!found || !propertyOf(found, 'position') || (found.role === 'camera' && through.value)) return null;
  const { position, turn } = found.thing as { position: Point; turn?: number };
  // A seated product is drawn where it stands; its own height counts from there.
  const at = tableau.value?.instances.find((i) => i.id === id)?.matrix;
  return {
    id,
    mode: turn === undefined ? ('move' as const) : mode.value,
    position: at ? ([at[12], position[1], at[14]] as Point) : position,
    turn: turn ?? 0,
  };
});

function setPosition(id: string, position: [number, number, number], gesture: string): void {
  selection.place(id, position, `Move ${stage.thing?.name ?? id}`, gesture, tableau.value);
}

const measuring = ref(false);
let from: readonly number[] | null = null;
watch(measuring, () => (from = null));
/** Takes a clicked place for the measure; after the second it says how far apart they are. */
function takeMeasure(point: readonly number[]): boolean {
  if (!measuring.value) return false;
  if (!from) from = point;
  else {
    const [dx, dy, dz] = point.map((v, a) => v - from![a]);
    const mm = (v: number): string => `${Number((Math.abs(v) * 1000).toFixed(1))} mm`;
    notices.done(`${mm(Math.hypot(dx, dy, dz))} apart: ${mm(dx)} across, ${mm(dy)} up, ${mm(dz)} deep.`);
    from = null;
    measuring.value = false;
  }
  return true;
}

/** The free view becomes the camera's place. */
function placeCamera(): void {
  const viewpoint = view.value?.viewpoint();
  const camera = campaign.camera;
  if (!viewpoint || !camera) return;
  const numbers = (['position', 'aim'] as const).flatMap((point) =>
    viewpoint[point].map((value, axis) => [`${point}.${axis}`, value] as const),
  );
  stage.setNumbers(camera.id, Object.fromEntries(numbers), `Place ${camera.name}`);
  through.value = true;
}

/** The picture area: as large as fits, at the campaign's proportion. */
useResizeObserver(surround, ([entry]) => {
  const { width, height } = entry.contentRect;
  const w = Math.min(width, height * campaign.aspect);
  size.value = { width: Math.floor(w), height: Math.floor(w / campaign.aspect) };
  view.value?.resize(size.value.width, size.value.height);
});

function onKey(event: KeyboardEvent): void {
  if ((event.target as HTMLElement).closest('input, textarea')) return;
  if (event.key.toLowerCase() === 'g') mode.value = 'move';
  if (event.key.toLowerCase() === 't') mode.value = 'turn';
}

onMounted(() => {
  window.addEventListener('keydown', onKey);
  try {
    view.value = new StageView(canvas.value!, {
      pick: (id, more) => selection.pick(id, more),
      mark: (spot) => takeMeasure(spot.point) || stage.placeHighlight(spot),
      move: setPosition,
      turn: (id, degrees, gesture) => stage.setNumber(id, 'turn', degrees, `Turn ${stage.thing?.name ?? id}`, gesture),
      leaveCamera: () => (through.value = false),
    });
    view.value.resize(size.value.width, size.value.height);
  } catch {
    broken.value = 'This browser offers no WebGL2, so the viewer cannot draw: takes still render on the server.';
  }
});
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey);
  view.value?.dispose();
});

watch(
  [view, tableau, clay, () => stage.selected, handles, through, () => tableau.value && artIn(tableau.value)],
  () => {
    if (!view.value || !tableau.value) return;
    view.value.show({
      tableau: tableau.value,
      clay: clay.value,
      selected: stage.selected,
      handles: handles.value,
      throughCamera: through.value,
      loaded: LOADED,
    });
  },
  { immediate: true },
);

/** A traced picture is the take's: it is seen through the shot's camera. */
function choose(key: Drawing): void {
  drawing.value = key;
  if (key === 'traced') through.value = true;
}

function lookThrough(id: string): void {
  documents.run('shot', campaign.shotId, chooseCamera(id));
  through.value = true;
}
</script>

<template>
  <section class="viewer" aria-label="Viewer">
    <div class="head row">
      <ShotSwitch />
      <v-menu v-if="campaign.set">
        <template #activator="{ props }">
          <button v-bind="props" type="button" class="chip" aria-label="Camera of this shot">
            {{ campaign.camera?.name ?? 'No camera' }}
            <span v-if="campaign.camera" class="mono dim"
              >{{ Math.round(stage.number(campaign.camera.id, 'focalLength')) }} mm f/{{
                campaign.camera.fNumber
              }}</span
            >
          </button>
        </template>
        <v-list density="compact" bg-color="surface-bright">
          <v-list-item
            v-for="camera in campaign.set.cameras"
            :key="camera.id"
            :title="camera.name"
            @click="lookThrough(camera.id)"
          />
        </v-list>
      </v-menu>
      <span class="spread" />
      <template v-if="!through">
        <IconButton :icon="mdiVideoOutline" label="Back to the camera" @click="through = true" />
        <IconButton :icon="mdiVideoPlusOutline" label="Bring the camera here" @click="placeCamera" />
      </template>
      <IconButton
        :icon="mdiArrowAll"
        label="Move handles"
        shortcut="G"
        :pressed="mode === 'move'"
        @click="mode = 'move'"
      />
      <IconButton
        :icon="mdiRotate360"
        label="Turn handle"
        shortcut="T"
        :pressed="mode === 'turn'"
        @click="mode = 'turn'"
      />
      <LooksMenu
        v-model:guides="guides"
        v-model:mask="mask"
        v-model:split="split"
        v-model:through="through"
        v-model:measuring="measuring"
        @look="lookFrom"
      />
      <button
        v-if="drawing === 'traced'"
        type="button"
        class="chip"
        :class="{ on: metering }"
        :aria-pressed="metering"
        data-test="meter"
        @click="metering = !metering"
      >
        Meter
      </button>
      <div class="switch" role="group" aria-label="How the viewer draws">
        <button
          v-for="[key, label] in DRAWINGS"
          :key="key"
          type="button"
          class="chip"
          :class="{ on: drawing === key }"
          :aria-pressed="drawing === key"
          @click="choose(key)"
        >
          {{ label }}
        </button>
      </div>
    </div>
    <div class="views" :class="{ split }">
      <div ref="surround" class="surround">
        <p v-if="broken" role="alert" class="pa-6">{{ broken }}</p>
        <div class="picture" :style="{ width: `${size.width}px`, height: `${size.height}px` }">
          <canvas
            ref="canvas"
            data-test="stage"
            :class="{ aiming: stage.highlighting }"
            :aria-label="`The set at frame ${playhead.frame + 1}`"
          />
          <TracedPicture
            v-if="drawing === 'traced' && through && tableau && !playhead.playing"
            :tableau="tableau"
            :width="size.width"
            :height="size.height"
            :meter="metering"
          />
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
canvas {
  display: block;
  width: 100%;
  height: 100%;
  touch-action: none;
}
canvas.aiming {
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
