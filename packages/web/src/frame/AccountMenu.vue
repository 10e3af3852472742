<script setup lang="ts">
import { mdiLogout, mdiViewGridOutline } from '@mdi/js';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useCampaign, useNotices, useSession } from '../stores/index.ts';
import { MenuButton, type MenuLines } from '../ui/index.ts';

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
const lines = computed<MenuLines>(() => [
  { title: session.person?.name ?? '', disabled: true, run: () => undefined },
  { title: session.person?.email ?? '', disabled: true, run: () => undefined },
  null,
  { title: 'All campaigns', icon: mdiViewGridOutline, run: () => void router.push('/') },
  { title: 'Sign out', icon: mdiLogout, run: () => void signOut() },
]);
</script>

<template>
  <MenuButton class="face" :tip="`Account of ${session.person?.name ?? ''}`" :lines="lines">{{ initials }}</MenuButton>
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
