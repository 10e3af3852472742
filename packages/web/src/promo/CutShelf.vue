<script setup lang="ts">
import { framesToSeconds } from '@tender-orbit/core/time';
import { useCampaign } from '../stores/index.ts';
import { openContextMenu, PickCard } from '../ui/index.ts';
import { useCuts, type OtherCut } from './use-cuts.ts';
import { useFootage } from './use-footage.ts';
import { usePromo } from './use-promo.ts';

/** Other cuts of the campaign, to be shown in the one in hand. */
const campaign = useCampaign();
const { others, open } = useCuts();
const { range, addTake, insertTake } = usePromo();
const { addOver } = useFootage();

const tipOf = ({ name, length, round }: OtherCut): string => {
  if (round) return 'It shows this cut: shown in it, it would have no end';
  return length === 0 ? 'There is nothing in it yet' : `Add ${name} at the end`;
};
function openMenu(event: MouseEvent, cut: OtherCut): void {
  const source = { ...cut, frames: cut.length, rate: campaign.rate.num / campaign.rate.den };
  const away = cut.round || cut.length === 0;
  openContextMenu(event, [
    { title: 'Open this cut', run: () => open(cut.id) },
    null,
    { title: 'Add at the end', disabled: away, run: () => addTake(cut) },
    {
      title: range.value ? 'Insert for the range' : 'Insert at the playhead',
      disabled: away,
      run: () => insertTake(cut),
    },
    {
      title: range.value ? 'Overwrite the range' : 'Overwrite from the playhead',
      disabled: away,
      run: () => insertTake(cut, 'overwrite'),
    },
    { title: 'Lay over the picture', disabled: away, run: () => addOver(source) },
  ]);
}
</script>

<template>
  <div v-if="others.length > 0" role="group" aria-label="Other cuts" class="cuts">
    <h3>Other cuts</h3>
    <PickCard
      v-for="cut in others"
      :key="cut.id"
      class="cut shelf-pick"
      :disabled="cut.round || cut.length === 0"
      :tip="tipOf(cut)"
      data-test="shelf-cut"
      @click="addTake(cut)"
      @contextmenu="openMenu($event, cut)"
    >
      <span class="clip">{{ cut.name }}</span>
      <span class="mono dim">{{ framesToSeconds(cut.length, campaign.rate).toFixed(1) }} s</span>
    </PickCard>
  </div>
</template>

<style scoped>
.cuts {
  margin-top: 6px;
}
h3 {
  margin: 0 0 2px;
  font-size: 12px;
  font-weight: 500;
  color: var(--bone-dim);
}
.cut {
  justify-content: space-between;
}
</style>
