import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './stores/index.ts';
import { STATIONS } from './frame/stations.ts';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/sign-in', component: () => import('./campaigns/SignIn.vue'), meta: { open: true } },
    { path: '/', component: () => import('./campaigns/CampaignList.vue') },
    {
      path: '/campaign/:campaign',
      component: () => import('./frame/CampaignFrame.vue'),
      children: [
        { path: '', redirect: (to) => `${to.path.replace(/\/$/, '')}/set` },
        ...STATIONS.map(({ path, view }) => ({ path, component: view })),
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});

router.beforeEach(async (to) => {
  const session = useSession();
  if (!session.known) await session.look().catch(() => undefined);
  if (!to.meta.open && !session.person) return { path: '/sign-in', query: { to: to.fullPath } };
  return true;
});
