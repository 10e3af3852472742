import { mdiCheckboxBlankOutline, mdiCheckboxMarked } from '@mdi/js';
import type { ThingRole } from '@tender-orbit/core/document';
import { LIGHT_KITS, PARTICLE_KITS } from '@tender-orbit/core/staging';
import { useActions, type ActionId } from '../actions/index.ts';
import { useCampaign, useStage } from '../stores/index.ts';
import type { MenuLines } from '../ui/index.ts';

const SURFACES: ActionId[] = [
  ...(['add.plinth', 'add.drum', 'add.steps', 'add.tabletop', 'add.floor', 'add.wall', 'add.panel'] as const),
  ...(['add.flag', 'add.bounce'] as const),
];
const LIGHTS: ActionId[] = ['add.key', 'add.fill', 'add.rim', 'add.top', 'add.background'];
const SMOKE: ActionId[] = ['add.smoke-reveal', 'add.smoke-wipe', 'add.floor-fog', 'add.steam', 'add.plain-smoke'];
const PARTICLES = PARTICLE_KITS.map((kit): ActionId => `add.${kit.replaceAll(' ', '-')}` as ActionId);
const capital = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());
/** What is added, without the word for it: the menu's button says that. */
export const withoutAdd = (label: string): string => capital(label.replace(/^Add /, ''));

/** What can be added to each group of the set list. */
export function useAddMenus(): (role: ThingRole) => MenuLines {
  const campaign = useCampaign();
  const stage = useStage();
  const actions = useActions();

  function kits(): MenuLines {
    const own = campaign.campaign?.kits ?? [];
    return [
      { heading: 'Light kits, in place of all lights' },
      {
        title: 'With their backdrop and room',
        icon: stage.kitBackdrops ? mdiCheckboxMarked : mdiCheckboxBlankOutline,
        run: () => (stage.kitBackdrops = !stage.kitBackdrops),
      },
      ...LIGHT_KITS.map((kit) => ({ title: capital(kit), run: () => stage.useKit(kit) })),
      ...(own.length > 0 ? [{ heading: 'Kept in this campaign' }] : []),
      ...own.map((kit) => ({
        title: kit.name,
        run: () => stage.useKit(kit),
        drop: { label: `Delete kit ${kit.name}`, run: () => stage.removeKit(kit.id) },
      })),
      null,
      ...actions.lines(['kit.keep']),
    ];
  }
  const MENUS: Record<ThingRole, () => MenuLines> = {
    product: () =>
      [...campaign.products].map(([id, product]) => ({ title: product.name, run: () => stage.addProduct(id) })),
    surface: () => actions.lines(SURFACES, withoutAdd),
    light: () => [...actions.lines(LIGHTS, withoutAdd), ...kits()],
    camera: () => actions.lines(['add.camera'], withoutAdd),
    environment: () => [],
    null: () => actions.lines(['add.null'], withoutAdd),
    effect: () => [
      { heading: 'Smoke' },
      ...actions.lines(SMOKE, withoutAdd),
      { heading: 'Particles' },
      ...actions.lines(PARTICLES, withoutAdd),
    ],
  };
  return (role) => MENUS[role]();
}
