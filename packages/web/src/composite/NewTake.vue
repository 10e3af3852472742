<script setup lang="ts">
import { byteWords } from '../controls/byte-words.ts';
import { framesText } from './frames-text.ts';
import { countOf } from '../controls/count-of.ts';
import { useHandlers } from '../actions/index.ts';
import type { SimulationsUsed } from '@tender-orbit/core/contract';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import type { FrameChoice, TakeQuality } from '@tender-orbit/core/document';
import { QUALITIES } from '@tender-orbit/core/trace';
import { api, sentenceOf, type Estimate } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices, usePlayhead, useSession } from '../stores/index.ts';
import type { Part } from './region.ts';
import { CheckField, durationLabel, NumberField, ToggleRow, UiButton } from '../ui/index.ts';

const emit = defineEmits<{ started: [take: string] }>();
/** The part that is rendered; null is the whole picture. */
const part = defineModel<Part | null>('part', { required: true });
const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const session = useSession();
const playhead = usePlayhead();
const quality = ref<TakeQuality>('draft');
const share = ref(0.5);
const samples = ref(0);
const passes = ref(false);
const lights = ref(false);
const anew = ref(false);
const estimate = ref<Estimate | null>(null);
const measuring = ref(false);
const failure = ref('');
const starting = ref(false);
let asked = 0;
let timer: ReturnType<typeof setTimeout>;

const QUALITY_TEXT: Record<TakeQuality, string> = {
  sketch: 'A flat drawing in a moment, without effects: for timing, and to stand in for the shot in Promo.',
  clay: 'One neutral finish: shows shapes, light and moves.',
  draft: 'True finishes, few samples and bounces.',
  final: 'Full bounces and samples, for delivery.',
};
const QUALITY_OPTIONS = (Object.keys(QUALITY_TEXT) as TakeQuality[]).map((value) => ({
  value,
  label: value,
  tip: QUALITY_TEXT[value],
}));
const SHARES = [0.25, 0.5, 0.75, 1].map((value) => ({ value, label: `${value * 100}%` }));
const AREAS = [
  { value: false, label: 'Whole picture' },
  { value: true, label: 'Part', test: 'part' },
];
/** Which frames are rendered. */
const wanted = ref<'all' | 'twos' | 'range' | 'still'>('all');
// Without a range on the ruler there is none to render.
const which = computed(() => (wanted.value === 'range' && !playhead.range ? 'all' : wanted.value));
const FRAMES = computed(() => [
  { value: 'all' as const, label: 'All' },
  { value: 'twos' as const, label: 'Half rate', tip: 'Every second frame, each shown for two' },
  {
    ...{ value: 'range' as const, label: 'Range', disabled: !playhead.range },
    tip: playhead.range ? 'The range that is marked on the ruler' : 'Mark a range on the ruler first: Shift and drag',
  },
  { value: 'still' as const, label: 'Still', tip: 'The frame at the playhead alone' },
]);
const frames = computed((): FrameChoice | undefined => {
  const last = (campaign.shot?.length ?? 1) - 1;
  if (which.value === 'twos') return { first: 0, last, step: 2 };
  if (which.value === 'still') return { first: playhead.frame, last: playhead.frame, step: 1 };
  if (which.value !== 'range' || !playhead.range) return undefined;
  return { first: playhead.range.from, last: Math.min(last, playhead.range.to - 1), step: 1 };
});
const width = computed(() => Math.max(16, Math.round((campaign.campaign!.width * share.value) / 2) * 2));
const height = computed(() => Math.round(width.value / campaign.aspect / 2) * 2);
const request = computed(() => ({
  shot: campaign.shotId,
  quality: quality.value,
  width: width.value,
  samples: samples.value,
  ...(quality.value === 'final' && { passes: passes.value }),
  lights: lights.value,
  ...(part.value && { region: { ...part.value } }),
  ...(frames.value && { frames: frames.value }),
}));
/** Bytes that simulated frames of all campaigns take. */
const stored = ref(0);
async function clearSimulated(): Promise<void> {
  await notices.guard(async () => {
    stored.value = (await api<SimulationsUsed>('DELETE', '/simulations')).bytes;
    notices.done('What was simulated is cleared: takes simulate it again.');
  });
}
onMounted(async () => {
  stored.value = (await api<SimulationsUsed>('GET', '/simulations').catch(() => ({ bytes: 0 }))).bytes;
});
/** Effects that the take shows. */
const effects = computed(() => campaign.set?.effects.filter((e) => e.visible) ?? []);
/** How it is traced; a sketch is not. */
const tracing = computed(() => (quality.value === 'sketch' ? null : QUALITIES[quality.value]));
const adapts = computed(() => samples.value === 0 && tracing.value?.adapt);

/** The server traces a few small pictures of this very shot; asked again when anything that matters has changed. */
async function measure(): Promise<void> {
  const ticket = ++asked;
  measuring.value = true;
  failure.value = '';
  try {
    const answer = await api<Estimate>('POST', '/takes/estimate', request.value);
    if (ticket === asked) estimate.value = answer;
  } catch (error) {
    if (ticket === asked) failure.value = sentenceOf(error);
  } finally {
    if (ticket === asked) measuring.value = false;
  }
}
watch(
  [request, () => campaign.shot, () => campaign.set],
  () => {
    clearTimeout(timer);
    estimate.value = null;
    timer = setTimeout(() => void measure(), 900);
  },
  { immediate: true },
);
onBeforeUnmount(() => clearTimeout(timer));

async function start(): Promise<void> {
  starting.value = true;
  await notices.guard(async () => {
    await documents.settled();
    const { id } = await api<{ id: string }>('POST', '/takes', { ...request.value, anew: anew.value });
    await campaign.lookAgain();
    emit('started', id);
  });
  starting.value = false;
}
useHandlers({
  'take.start': { run: () => void start(), enabled: () => !starting.value && campaign.shot !== undefined },
});
</script>

<template>
  <section class="card scroll new" aria-label="New take" data-test="new-take">
    <h2>New take</h2>
    <ToggleRow label="Quality" :options="QUALITY_OPTIONS" :value="quality" @change="(q) => (quality = q)" />
    <p class="dim">{{ QUALITY_TEXT[quality] }}</p>
    <ToggleRow label="Size" mono :options="SHARES" :value="share" @change="(s) => (share = s)" />
    <NumberField
      v-if="tracing"
      label="Samples"
      :value="samples || tracing.samples"
      :min="1"
      :max="4096"
      :step="1"
      :usual="tracing.samples"
      @change="(v) => (samples = Math.round(v))"
    />
    <p v-if="adapts" class="dim">Noisy places get up to {{ adapts.most }}.</p>
    <ToggleRow
      v-if="tracing"
      label="Area"
      :options="AREAS"
      :value="part !== null && part !== undefined"
      @change="(some) => (part = some ? (part ?? { x0: 0.25, y0: 0.25, x1: 0.75, y1: 0.75 }) : null)"
    />
    <p v-if="part && tracing" class="dim">Drag over the picture to draw the part.</p>
    <ToggleRow label="Frames" :options="FRAMES" :value="which" @change="(w) => (wanted = w)" />
    <p v-if="frames" class="dim" data-test="frames-chosen">{{ framesText(frames) }}</p>
    <CheckField
      v-if="quality === 'final'"
      class="passes"
      label="Keep layers (OpenEXR): every light, lobe and matte"
      :value="passes"
      data-test="passes"
      @change="(on) => (passes = on)"
    />
    <CheckField
      class="passes"
      label="Keep each light, for the light desk"
      :value="lights"
      data-test="keep-lights"
      @change="(on) => (lights = on)"
    />
    <CheckField
      class="passes"
      label="Take frames that have not changed from earlier takes"
      :value="!anew"
      data-test="reuse"
      @change="(on) => (anew = !on)"
    />
    <CheckField
      class="passes"
      label="Leave one core free while I work"
      :value="session.preferences.spareCore ?? false"
      data-test="spare-core"
      @change="(spareCore) => notices.guard(() => session.choose({ spareCore }))"
    />
    <dl>
      <dt>Picture</dt>
      <dd class="mono">{{ width }} x {{ height }}</dd>
      <dt>Frames</dt>
      <dd class="mono" data-test="frame-count">{{ estimate?.frames ?? '...' }}</dd>
      <dt>Each</dt>
      <dd class="mono" data-test="per-frame">
        {{ estimate ? durationLabel(estimate.secondsPerFrame) : measuring ? 'measuring...' : '...' }}
      </dd>
      <dt>Whole take</dt>
      <dd class="mono big" data-test="estimate">{{ estimate ? `about ${durationLabel(estimate.seconds)}` : '...' }}</dd>
      <dt>On disk</dt>
      <dd class="mono" data-test="disk">
        {{ estimate ? `about ${byteWords(estimate.bytes)}` : '...' }}
        <span v-if="estimate?.layers" class="dim">with {{ countOf(estimate.layers, 'layer') }} a frame</span>
      </dd>
    </dl>
    <p v-if="effects.length" class="dim" data-test="simulates">
      {{ effects.map((e) => `${e.name} (${e.level})`).join(', ') }}: what is not simulated yet is simulated first. The
      times above are without it.
      <template v-if="stored">
        {{ byteWords(stored) }} are simulated on disk.
        <UiButton data-test="clear-simulations" @click="clearSimulated">Clear</UiButton>
      </template>
    </p>
    <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    <UiButton tone="primary" class="start" :disabled="starting || !campaign.shot" data-test="start-take" @click="start">
      Start take
    </UiButton>
    <p class="dim">
      Frames appear as they are finished. Rendering goes on when you work elsewhere or close the window, and after a
      restart of the server.
    </p>
  </section>
</template>

<style scoped>
.new {
  display: grid;
  align-content: start;
  gap: 10px;
  padding: 14px;
}
p {
  margin: 0;
}
.quality {
  text-transform: capitalize;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  margin: 0 0 0 20px;
}
dt {
  color: var(--bone-dim);
}
dd {
  margin: 0;
}
.passes {
  display: flex;
  gap: 8px;
  align-items: start;
  cursor: pointer;
}
.passes input {
  margin: 3px 0 0;
  accent-color: var(--celadon);
}
.big {
  color: var(--honey);
}
.failure {
  color: var(--coral);
}
.start {
  min-height: 34px;
  justify-content: center;
}
</style>
