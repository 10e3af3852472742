<script setup lang="ts">
import { byteWords } from '../controls/byte-words.ts';
import { saveFile } from '../controls/save-file.ts';
import { useHandlers } from '../actions/index.ts';
import { computed, ref } from 'vue';
import { captionsOf, promoLength, showsOf, writeCaptions, type CaptionFormat } from '@tender-orbit/core/promo';
import { framesToSeconds, rateLabel } from '@tender-orbit/core/time';
import { api, frameUrl, type DeliverySummary } from '../api/index.ts';
import { useCampaign, useDocuments, useNotices } from '../stores/index.ts';
import { PickCard, ProgressBar, SelectField, SplitPanels, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const documents = useDocuments();
const notices = useNotices();
const format = ref<'mp4' | 'webm'>('mp4');
const watching = ref('');
const busy = ref(false);

const FORMATS = {
  mp4: { title: 'MP4', text: 'H.264 and AAC. Plays everywhere: web, phones, players, editing.' },
  webm: { title: 'WebM', text: 'VP9 and Opus. Smaller, for the web.' },
} as const;
const STATES: Record<DeliverySummary['state'], string> = {
  waiting: 'waiting',
  working: 'encoding',
  done: 'ready',
  failed: 'failed',
  stopped: 'stopped',
};
const promo = computed(() => campaign.promo);
const frames = computed(() => (promo.value ? promoLength(promo.value) : 0));
const watched = computed(
  () =>
    campaign.deliveries.find((d) => d.id === watching.value && d.state === 'done') ??
    campaign.deliveries.find((d) => d.state === 'done'),
);
/** Clips and overlays that show drawings of shots. */
const sketches = computed(
  () =>
    (promo.value ? [promo.value, ...Object.values(campaign.cuts)] : [])
      .flatMap(showsOf)
      .filter((id) => campaign.takes.find((t) => t.id === id)?.quality === 'sketch').length,
);
/** A frame of the promo's last clip stands in until there is a file. */
const still = computed(() => {
  const take = campaign.takes.find((t) => t.id === promo.value?.clips.at(-1)?.take);
  return take?.done.length ? frameUrl(take.id, take.done.at(-1)!) : null;
});
const fileUrl = (id: string): string => `/api/deliveries/${id}/file`;

/** Makes a file of each of these cuts, one after the other. */
async function deliver(cuts: readonly string[] = [campaign.promoId]): Promise<void> {
  busy.value = true;
  await notices.guard(async () => {
    await documents.settled();
    for (const id of cuts) await api('POST', `/promos/${id}/deliveries`, { format: format.value });
  });
  await campaign.lookAgain();
  busy.value = false;
}
const cuts = computed(() =>
  campaign.promoIds.map((value) => ({ value, title: documents.get('promo', value)?.name ?? 'Cut' })),
);
function remove(id: string): void {
  void notices.guard(async () => {
    await api('DELETE', `/deliveries/${id}`);
    await campaign.lookAgain();
  });
}

const CAPTIONS: Record<CaptionFormat, { title: string; type: string }> = {
  vtt: { title: 'WebVTT', type: 'text/vtt' },
  srt: { title: 'SubRip', type: 'application/x-subrip' },
};
const captions = computed(() => (promo.value ? captionsOf(promo.value, campaign.rate, campaign.cuts) : []));

function saveCaptions(kind: CaptionFormat): void {
  const text = writeCaptions(captions.value, kind);
  saveFile(
    new Blob([text], { type: `${CAPTIONS[kind].type};charset=utf-8` }),
    `${promo.value?.name ?? 'captions'}.${kind}`,
  );
}
useHandlers({ 'release.make': { run: () => void deliver(), enabled: () => !busy.value && frames.value > 0 } });
</script>

<template>
  <SplitPanels class="release" name="release" :left="290" :right="330">
    <template #left>
      <section class="card scroll make" aria-label="Make a file">
        <h2>Make a file</h2>
        <div role="group" aria-label="Format" class="formats">
          <PickCard
            v-for="(entry, key) in FORMATS"
            :key="key"
            class="format"
            :on="format === key"
            @click="format = key"
          >
            <strong>{{ entry.title }}</strong><span class="dim">{{ entry.text }}</span>
          </PickCard>
        </div>
        <SelectField
          v-if="cuts.length > 1"
          label="Cut"
          :options="cuts"
          :value="campaign.promoId"
          @change="(id) => (campaign.promoChosen = id)"
        />
        <dl v-if="promo">
          <template v-if="cuts.length === 1">
            <dt>Promo</dt>
            <dd>{{ promo.name }}</dd>
          </template>
          <dt>Picture</dt>
          <dd class="mono">{{ promo.width }} x {{ promo.height }}, {{ rateLabel(campaign.rate) }} fps</dd>
          <dt>Length</dt>
          <dd class="mono">{{ framesToSeconds(frames, campaign.rate).toFixed(2) }} s, {{ frames }} frames</dd>
          <dt>Sound</dt>
          <dd>{{ promo.music?.name ?? 'silent' }}</dd>
          <dt>Colour</dt>
          <dd class="mono">BT.709, limited range</dd>
        </dl>
        <UiButton tone="primary" class="start" :disabled="busy || frames === 0" data-test="deliver" @click="deliver()">
          Make {{ FORMATS[format].title }}
        </UiButton>
        <UiButton
          v-if="cuts.length > 1"
          class="start"
          :disabled="busy"
          data-test="deliver-all"
          @click="deliver(campaign.promoIds)"
        >
          Make {{ FORMATS[format].title }} of all {{ cuts.length }} cuts
        </UiButton>
        <p v-if="sketches > 0" class="dim" data-test="still-sketches">
          {{ sketches === 1 ? 'One clip shows a sketch' : `${sketches} clips show sketches` }}, which the file will show
          as well: Promo swaps them for takes.
        </p>
        <p v-if="frames === 0" class="dim">The promo is empty: put a take or a title into it first.</p>
        <template v-if="captions.length > 0">
          <h2>Captions</h2>
          <p class="dim about">
            The promo’s {{ captions.length }} titles with their times, as a text file beside the film.
          </p>
          <div class="row">
            <UiButton
              v-for="(entry, key) in CAPTIONS"
              :key="key"
              :data-test="`captions-${key}`"
              @click="saveCaptions(key)"
            >
              Save {{ entry.title }}
            </UiButton>
          </div>
        </template>
      </section>
    </template>
    <section class="viewer" aria-label="Finished file">
      <div class="surround">
        <video
          v-if="watched"
          :key="watched.id"
          :src="fileUrl(watched.id)"
          controls
          playsinline
          :aria-label="watched.name"
        />
        <template v-else>
          <img v-if="still" :src="still" alt="" class="poster" />
          <p class="chip poster-note">A finished file plays here</p>
        </template>
      </div>
    </section>
    <template #right>
      <section class="card scroll files" aria-label="Files" data-test="deliveries">
        <h2>Files</h2>
        <article v-for="d in campaign.deliveries" :key="d.id" :data-state="d.state" data-test="delivery">
          <div class="row">
            <strong class="clip">{{ d.name }}</strong><span class="chip still mono">{{ d.format }}</span>
            <span class="spread" />
            <span :class="d.state" class="small">{{ STATES[d.state] }}</span>
          </div>
          <span class="mono dim"
            >{{ d.width }} x {{ d.height }}, {{ d.frames }} f{{ d.size ? `, ${byteWords(d.size)}` : '' }}</span
          >
          <ProgressBar
            v-if="d.state === 'working' || d.state === 'waiting'"
            :value="d.progress"
            :label="`Encoding ${d.name}`"
          />
          <p v-if="d.error" role="alert" class="failed">{{ d.error }}</p>
          <div class="row">
            <UiButton v-if="d.state === 'done'" tone="primary" :href="fileUrl(d.id)" download data-test="download"
              >Download</UiButton
            >
            <UiButton v-if="d.state === 'done'" :pressed="watched?.id === d.id" @click="watching = d.id">
              Watch
            </UiButton>
            <span class="spread" />
            <UiButton @click="remove(d.id)">
              {{ d.state === 'working' || d.state === 'waiting' ? 'Cancel' : 'Delete' }}
            </UiButton>
          </div>
        </article>
        <p v-if="campaign.deliveries.length === 0" class="dim">
          No file yet. Make one on the left; it is encoded on the server while you go on working.
        </p>
      </section>
    </template>
  </SplitPanels>
</template>

<style scoped>
.about {
  margin: 0;
}
.release {
  height: 100%;
}
.make {
  display: grid;
  align-content: start;
  gap: 14px;
  padding: 16px;
}
.formats {
  display: grid;
  gap: 8px;
}
.format {
  display: grid;
  gap: 2px;
  padding: 10px 12px;
  border: 1px solid transparent;
  border-radius: 8px;
  background: var(--ink-2);
  color: var(--bone);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.format.on {
  border-color: var(--celadon);
  background: var(--celadon-deep);
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 0;
}
dt {
  color: var(--bone-dim);
}
dd {
  margin: 0;
}
.start {
  min-height: 36px;
  justify-content: center;
}
.viewer {
  grid-template-rows: 1fr;
}
.surround {
  padding: 12px;
}
video,
.poster {
  grid-area: 1 / 1;
}
.poster {
  max-width: 100%;
  max-height: 100%;
  min-height: 0;
  width: 100%;
  object-fit: contain;
  opacity: 0.45;
}
.poster-note {
  grid-area: 1 / 1;
  cursor: default;
}
video {
  max-width: 100%;
  max-height: 100%;
  min-height: 0;
}
.files {
  padding: 16px;
}
article {
  display: grid;
  gap: 6px;
  margin-top: 10px;
  padding: 12px;
  border-radius: 8px;
  background: var(--ink-0);
}
.small {
  font-size: 12px;
  color: var(--bone-dim);
}
.small.done {
  color: var(--celadon);
}
.small.working {
  color: var(--honey);
}
.failed {
  margin: 0;
  color: var(--coral);
}
</style>
