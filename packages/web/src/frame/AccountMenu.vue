<script setup lang="ts">
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useCampaign, useNotices, useSession } from '../stores/index.ts';

const router = useRouter();
const campaign = useCampaign();
const session = useSession();
const notices = useNotices();
const initials = computed(() =>
  (session.person?.name ?? '?')
    .split(/\s+/)
    .map((w) => w[0])
    .join('')
    .slice(0, 2)
    .toUpperCase(),
);

async function signOut(): Promise<void> {
  await notices.guard(async () => {
    await session.signOut();
    campaign.close();
    await router.push('/sign-in');
  });
}
</script>

<template>
  <v-menu>
    <template #activator="{ props }">
      <button v-bind="props" type="button" class="chip face" :aria-label="`Account of ${session.person?.name ?? ''}`">
        {{ initials }}
      </button>
    </template>
    <v-list density="compact" bg-color="surface-bright">
      <v-list-item :title="session.person?.name" :subtitle="session.person?.email" />
      <v-list-item title="All campaigns" @click="router.push('/')" />
      <v-list-item title="Sign out" @click="signOut" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.face {
  width: 30px;
  height: 30px;
  border-radius: 50%;
  justify-content: center;
  padding: 0;
  font-size: 12px;
}
</style>
