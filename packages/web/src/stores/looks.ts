import { defineStore } from 'pinia';
import { ref } from 'vue';
import { freshName, lookFrom, namesOf, putLook, thingsOf, type Layer } from '@tender-orbit/core/document';
import { api, type KeptLook } from '../api/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { useCampaign } from './campaign.ts';
import { useNotices } from './notices.ts';
import { useRack } from './rack.ts';

/** Layers with their keys that the person keeps, for any shot of any campaign. */
export const useLooks = defineStore('looks', () => {
  const campaign = useCampaign();
  const notices = useNotices();
  const rack = useRack();
  const looks = ref<KeptLook[]>([]);

  async function read(): Promise<void> {
    await notices.guard(async () => void (looks.value = await api<KeptLook[]>('GET', '/looks')));
  }
  /** Keeps a layer with all that it holds, under its name. */
  async function keep(layer: Layer): Promise<void> {
    await notices.guard(async () => {
      const { stack } = rack;
      if (!stack) return;
      const name = freshName(namesOf(looks.value), layer.name);
      const kept = await api<KeptLook>('POST', '/looks', {
        name,
        look: lookFrom(stack, layer.id, name, campaign.shot?.length ?? 1),
      });
      looks.value = [...looks.value, kept];
      notices.done(`"${name}" is kept: it lies on the shelf of every shot.`);
    });
  }
  /** Puts a look on the rack of the shot or promo in hand, in the group that is looked into. */
  function put({ look }: KeptLook): void {
    const set = rack.host === 'shot' ? campaign.set : undefined;
    const things = new Set(set ? thingsOf(set).map(({ thing }) => thing.id) : []);
    const { command, id } = putLook(look, () => freshId('layer'), things, rack.group?.id ?? '');
    rack.run(command);
    rack.chosen = id;
  }
  async function remove({ id }: KeptLook): Promise<void> {
    await notices.guard(async () => {
      await api('DELETE', `/looks/${id}`);
      looks.value = looks.value.filter((l) => l.id !== id);
    });
  }
  return { looks, read, keep, put, remove };
});
