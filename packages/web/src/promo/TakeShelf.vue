<script setup lang="ts">
import { changeClips } from '@tender-orbit/core/document';
import { computed, ref } from 'vue';
import { showsOf } from '@tender-orbit/core/promo';
import { framesToSeconds } from '@tender-orbit/core/time';
import { api, frameUrl, type TakeSummary } from '../api/index.ts';
import { useCampaign, useNotices } from '../stores/index.ts';
import { byteWords } from '../controls/byte-words.ts';
import TakePart from './TakePart.vue';
import { useCallout } from './use-callout.ts';
import { useFootage } from './use-footage.ts';
import { usePromo } from './use-promo.ts';
import { confirm, openContextMenu, PickCard, UiButton } from '../ui/index.ts';

const campaign = useCampaign();
const notices = useNotices();
const { promo, range, run, addTake, insertTake, addTitle } = usePromo();
const { addOver } = useFootage();
const { add: addCallout } = useCallout();
/** A take has the rate of the campaign. */
const sourceOfTake = (take: TakeSummary) => ({
  ...{ id: take.id, name: take.name, frames: take.length },
  rate: campaign.rate.num / campaign.rate.den,
});
/** The take of which a part is chosen. */
const parted = ref<TakeSummary | null>(null);
function openMenu(event: MouseEvent, take: TakeSummary): void {
  if (take.state !== 'done') return;
  openContextMenu(event, [
    { title: 'Add at the end', run: () => addTake(take) },
    { title: range.value ? 'Insert for the range' : 'Insert at the playhead', run: () => insertTake(take) },
    {
      title: range.value ? 'Overwrite the range' : 'Overwrite from the playhead',
      run: () => insertTake(take, 'overwrite'),
    },
    { title: 'Lay over the picture', run: () => addOver(sourceOfTake(take)) },
    null,
    { title: 'A part of it...', run: () => (parted.value = take) },
  ]);
}
const takes = computed(() => campaign.wholeTakes.filter((t) => t.done.length > 0));
/** In-betweens that were rendered for a pace that no clip has any more go with all that they take on disk. */
async function clearUnused(): Promise<void> {
  const unused = [...campaign.unusedTimes];
  const sure = await confirm({
    title: 'Delete in-betweens?',
    text: 'No clip shows these frames any more. Taking a change of a pace back would have them rendered again.',
    yes: 'Delete in-betweens',
    danger: true,
  });
  if (!sure) return;
  await notices.guard(async () => {
    for (const { id } of unused) await api('DELETE', `/takes/${id}`);
    await campaign.lookAgain();
  });
}
/** Draws shots that have no take yet, and puts the drawings into the cut in the storyboard's order: an animatic. */
const drawing = ref(false);
async function addSketches(): Promise<void> {
  drawing.value = true;
  await notices.guard(async () => {
    for (const { id } of [...campaign.unseen]) {
      const made = await campaign.sketchShot(id);
      const take = campaign.takes.find((t) => t.id === made);
      if (take) addTake(take);
    }
  });
  drawing.value = false;
}
/** Clips that show drawings of shots of which there is a rendered take: each with the newest of them. */
const rendered = computed(() =>
  (promo.value?.clips ?? []).flatMap((clip) => {
    const drawn = campaign.takes.find((t) => t.id === clip.take && t.quality === 'sketch');
    const take =
      drawn && takes.value.find((t) => t.shot === drawn.shot && t.quality !== 'sketch' && t.state === 'done');
    return take ? [{ id: clip.id, values: { take: take.id } }] : [];
  }),
);
const uses = ({ id }: TakeSummary): number =>
  promo.value ? showsOf(promo.value).filter((take) => take === id).length : 0;
</script>

<template>
  <div role="group" aria-label="Takes">
    <p class="dim hint">Press to add at the end; a right click says where else.</p>
    <PickCard
      v-for="take in takes"
      :key="take.id"
      class="take shelf-pick"
      :disabled="take.state !== 'done'"
      :tip="take.state === 'done' ? `Add ${take.name} at the end` : 'Not rendered to the end yet'"
      data-test="shelf-take"
      @click="addTake(take)"
      @contextmenu="openMenu($event, take)"
    >
      <img :src="frameUrl(take.id, take.done[take.done.length >> 1])" width="80" height="45" alt="" />
      <span class="text">
        <span class="clip">{{ take.name }}</span>
        <span class="mono dim">{{ framesToSeconds(take.length, campaign.rate).toFixed(1) }} s {{ take.quality }}</span>
        <span v-if="take.state !== 'done'" class="small">{{ take.done.length }} of {{ take.length }}</span>
        <span v-else-if="uses(take)" class="small used"
          >used {{ uses(take) === 1 ? 'once' : `${uses(take)} times` }}</span
        >
      </span>
    </PickCard>
    <TakePart :take="parted" @close="parted = null" />
    <p v-if="takes.length === 0" class="dim">
      No take is ready yet: render one in Composite. A title can be added without one.
    </p>
    <UiButton
      v-if="campaign.unseen.length > 0"
      class="add"
      :disabled="drawing"
      tip="Draws shots that have no take yet, and puts the drawings at the end of the cut"
      data-test="add-sketches"
      @click="addSketches"
    >
      {{
        drawing
          ? 'Drawing...'
          : campaign.unseen.length === 1
            ? 'Sketch the shot without a take'
            : `Sketch ${campaign.unseen.length} shots without takes`
      }}
    </UiButton>
    <UiButton
      v-if="rendered.length > 0"
      class="add"
      tip="Clips that show sketches show the newest rendered takes of their shots"
      data-test="swap-sketches"
      @click="run(changeClips('Swap sketches for takes', rendered))"
    >
      Swap {{ rendered.length }} {{ rendered.length === 1 ? 'sketch' : 'sketches' }} for takes
    </UiButton>
    <UiButton
      v-if="campaign.unusedTimes.length > 0"
      class="add"
      :tip="`${byteWords(campaign.unusedTimes.reduce((n, t) => n + t.bytes, 0))} that no clip shows any more`"
      data-test="clear-unused"
      @click="clearUnused"
    >
      Delete unused in-betweens
    </UiButton>
    <div class="row add">
      <UiButton tone="primary" data-test="add-title" @click="addTitle">Add title</UiButton>
      <UiButton
        tip="A tag whose line stays on a point of the product"
        :disabled="!promo?.clips.length"
        data-test="add-callout"
        @click="addCallout"
        >Add callout</UiButton
      >
    </div>
  </div>
</template>

<style scoped>
.hint {
  margin: 0 0 2px;
}
.take {
  margin-top: 4px;
}
img {
  flex: none;
  border-radius: 4px;
  object-fit: cover;
}
.text {
  display: grid;
  align-content: start;
  min-width: 0;
}
.small {
  font-size: 12px;
  color: var(--bone-dim);
}
.used {
  color: var(--celadon);
}
.add {
  margin-top: 12px;
}
</style>
