<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { rateLabel } from '@tender-orbit/core/time';
import { api, frameUrl, type CampaignCard } from '../api/index.ts';
import { countOf } from '../controls/count-of.ts';
import AccountMenu from '../frame/AccountMenu.vue';
import DeleteCampaign from './DeleteCampaign.vue';
import NewCampaign from './NewCampaign.vue';
import { useCampaign, useNotices } from '../stores/index.ts';
import { IconButton, PickCard, UiButton } from '../ui/index.ts';

const router = useRouter();
const notices = useNotices();
const cards = ref<CampaignCard[] | null>(null);
const making = ref(false);
const doomed = ref<CampaignCard | null>(null);

onMounted(async () => {
  useCampaign().close();
  await notices.guard(async () => {
    cards.value = await api<CampaignCard[]>('GET', '/campaigns');
  });
});

function when(iso: string): string {
  return new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  }).format(new Date(iso));
}
</script>

<template>
  <div class="page scroll">
    <header class="row top">
      <img src="/mark.svg" width="24" height="24" alt="" />
      <h1>Campaigns</h1>
      <span class="spread" />
      <UiButton tone="primary" data-test="new-campaign" @click="making = true">New campaign</UiButton>
      <AccountMenu />
    </header>
    <main v-if="cards" class="cards">
      <article v-for="card in cards" :key="card.id" class="card campaign" data-test="campaign-card">
        <router-link :to="`/campaign/${card.id}`" class="open">
          <img v-if="card.cover" :src="frameUrl(card.cover, card.coverFrame)" alt="" class="cover" />
          <span v-else class="cover blank"><img src="/mark.svg" width="44" height="44" alt="" /></span>
          <span class="text">
            <strong class="clip">{{ card.document.name }}</strong>
            <span class="dim clip">{{ card.document.client || 'No client yet' }}</span>
            <span class="mono dim"
              >{{ card.document.width }} x {{ card.document.height }},
              {{ rateLabel(card.document.frameRate) }} fps</span
            >
            <span class="row facts">
              <span>{{ countOf(card.products, 'product') }}</span><span>{{ countOf(card.shots, 'shot') }}</span
              ><span>{{ countOf(card.takes, 'take') }}</span>
              <span class="spread" />
              <span class="dim">{{ when(card.updated) }}</span>
            </span>
          </span>
        </router-link>
        <span class="delete">
          <IconButton :icon="mdiTrashCanOutline" :label="`Delete ${card.document.name}`" @click="doomed = card" />
        </span>
      </article>
      <PickCard class="campaign new" @click="making = true">
        <span>Start a campaign</span>
        <span class="dim">One job for one client: brief, products, set, shots, promo.</span>
      </PickCard>
    </main>
    <div v-else class="cards" role="status" aria-label="Looking for the campaigns">
      <v-skeleton-loader v-for="n in 3" :key="n" type="card" />
    </div>
    <DeleteCampaign v-model="doomed" @deleted="(id) => (cards = cards?.filter((c) => c.id !== id) ?? null)" />
    <NewCampaign v-model="making" @made="(id) => router.push(`/campaign/${id}/brief`)" />
  </div>
</template>

<style scoped>
.page {
  height: 100vh;
}
.top {
  padding: 18px 32px;
  gap: 12px;
}
h1 {
  font-size: 20px;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 18px;
  padding: 6px 32px 32px;
}
.campaign {
  position: relative;
  overflow: hidden;
  color: var(--bone);
}
.campaign:hover {
  background: var(--ink-2);
}
.open {
  display: grid;
  grid-template-rows: auto 1fr;
  height: 100%;
  color: inherit;
  text-decoration: none;
}
.delete {
  position: absolute;
  top: 8px;
  right: 8px;
  border-radius: 6px;
  background: var(--ink-1);
}
.cover {
  width: 100%;
  aspect-ratio: 16 / 9;
  object-fit: cover;
  background: var(--surround);
}
.blank {
  display: grid;
  place-items: center;
}
.text {
  display: grid;
  gap: 3px;
  padding: 12px 14px;
}
.text strong {
  font-size: 15px;
}
.facts {
  margin-top: 6px;
  font-size: 12px;
  gap: 12px;
}
.new {
  display: grid;
  grid-template-rows: auto auto;
  align-content: center;
  justify-items: center;
  gap: 6px;
  min-height: 240px;
  padding: 20px;
  border: 1px dashed var(--line);
  border-radius: 10px;
  background: transparent;
  font: inherit;
  cursor: pointer;
}
</style>
