import {
  mdiArrowCollapseDown,
  mdiAxisArrow,
  mdiContentCopy,
  mdiContentDuplicate,
  mdiContentPaste,
  mdiEyeOutline,
  mdiGroup,
  mdiLightbulbOnOutline,
  mdiLockOutline,
  mdiRenameOutline,
  mdiSelectSearch,
  mdiStarFourPointsOutline,
  mdiTrashCanOutline,
  mdiUngroup,
} from '@mdi/js';
import { findThing, seatProduct, showThing, type BlockForm, type LightRole } from '@tender-orbit/core/document';
import { LIGHT_KITS } from '@tender-orbit/core/staging';
import { useFinds, useHandlers, type ActionId, type Handler } from '../actions/index.ts';
import { useCampaign, useSelection, useStage } from '../stores/index.ts';
import { freshId } from '../things/fresh-id.ts';
import { useCarry } from './use-carry.ts';

const LIGHTS: readonly LightRole[] = ['key', 'fill', 'rim', 'top', 'background'];
const FORMS: readonly BlockForm[] = ['plinth', 'drum', 'steps', 'tabletop', 'floor', 'wall', 'panel'];

/** What can be done with the things of a set, and what can be added to it; for the stations that stage. */
export function useSetActions(): void {
  const campaign = useCampaign();
  const selection = useSelection();
  const stage = useStage();
  const { carry, movable } = useCarry();
  const found = () => (campaign.set && stage.selected ? findThing(campaign.set, stage.selected) : undefined);
  /** Something is chosen that is not the room. */
  const some = (): boolean => found() !== undefined && found()!.role !== 'environment';
  const light = () => campaign.set?.lights.find((l) => l.id === stage.selected);
  const item = () => campaign.set?.products.find((p) => p.id === stage.selected);
  const shown = (): boolean | undefined => {
    const thing = found()?.thing as { visible?: boolean; on?: boolean } | undefined;
    return thing?.visible ?? thing?.on;
  };
  const locked = (): boolean => selection.arrangedOf(stage.selected)?.locked === true;
  const group = (): string => selection.arrangedOf(stage.selected)?.group ?? '';
  const alone = (): boolean => selection.isolated.length > 0;
  const step = (by: number) => ({
    enabled: () => stage.things.length > 0,
    run: () => {
      const ids = stage.things.map(({ id }) => id);
      const at = ids.indexOf(stage.selected);
      selection.pick(ids[at < 0 ? (by > 0 ? 0 : ids.length - 1) : (at + by + ids.length) % ids.length]);
    },
  });
  const adds = <T extends string>(kinds: readonly T[], add: (kind: T) => void): Partial<Record<ActionId, Handler>> =>
    Object.fromEntries(kinds.map((kind) => [`add.${kind}`, { run: () => add(kind) }]));

  useHandlers({
    'thing.next': step(1),
    'thing.previous': step(-1),
    'thing.none': { run: () => selection.pick(''), enabled: () => stage.selected !== '' },
    'thing.rename': { run: () => (selection.naming = stage.selected), enabled: some, icon: mdiRenameOutline },
    'thing.duplicate': { run: () => stage.duplicate(stage.selected), enabled: some, icon: mdiContentDuplicate },
    'thing.delete': {
      run: () => {
        const gesture = `delete-${Date.now()}`;
        for (const id of selection.all) stage.remove(id, gesture);
      },
      enabled: some,
      icon: mdiTrashCanOutline,
    },
    'thing.hide': {
      run: () => stage.run(showThing(stage.selected, !shown())),
      enabled: () => shown() !== undefined,
      label: () => (shown() === false ? 'Show' : 'Hide'),
      icon: mdiEyeOutline,
    },
    'thing.only': {
      run: () => (stage.only = stage.only === stage.selected ? '' : stage.selected),
      enabled: () => light() !== undefined,
      label: () => (stage.only !== '' && stage.only === stage.selected ? 'All lights' : 'Only this light'),
      icon: mdiLightbulbOnOutline,
    },
    'thing.lock': {
      run: () => selection.changeAll(locked() ? 'Unlock' : 'Lock', { locked: !locked() }),
      enabled: () => selection.arrangedOf(stage.selected) !== null,
      label: () => (locked() ? 'Unlock' : 'Lock'),
      icon: mdiLockOutline,
    },
    'thing.isolate': {
      run: () => (selection.isolated = alone() ? [] : [...selection.all]),
      enabled: () => some() || alone(),
      label: () => (alone() ? 'Show all' : 'Isolate'),
      icon: mdiSelectSearch,
    },
    'thing.group': {
      run: () => selection.changeAll('Group', { group: `Group ${freshId('g').slice(2, 6)}` }),
      enabled: () => selection.all.length > 1,
      icon: mdiGroup,
    },
    'thing.ungroup': {
      run: () => selection.changeAll('Ungroup', { group: '' }),
      enabled: () => group() !== '',
      icon: mdiUngroup,
    },
    'thing.carry': { run: carry, enabled: () => movable().length > 0, icon: mdiAxisArrow },
    'thing.copy-place': { run: () => selection.copyPlace(), enabled: some, icon: mdiContentCopy },
    'thing.paste-place': {
      run: () => selection.pastePlace('all'),
      enabled: () => some() && selection.copied !== null,
      icon: mdiContentPaste,
    },
    'thing.seat': {
      run: () => stage.run(seatProduct(stage.selected, !item()!.seated)),
      enabled: () => item() !== undefined,
      label: () => (item()?.seated ? 'Let it float' : 'Seat on the ground'),
      icon: mdiArrowCollapseDown,
    },
    'thing.highlight': {
      run: () => (stage.highlighting = stage.highlighting ? '' : stage.selected),
      enabled: () => light() !== undefined,
      icon: mdiStarFourPointsOutline,
    },
    ...adds(LIGHTS, stage.addLight),
    ...adds(FORMS, stage.addBlock),
    'add.flag': () => stage.addCard('flag'),
    'add.bounce': () => stage.addCard('bounce'),
    'add.camera': () => stage.addCamera(),
    'add.null': () => stage.addNull([0, 0, 0]),
    'add.smoke-reveal': () => stage.addSmoke('smoke reveal'),
    'add.smoke-wipe': () => stage.addSmoke('smoke wipe'),
    'add.floor-fog': () => stage.addSmoke('floor fog'),
    'add.steam': () => stage.addSmoke('steam'),
    'add.plain-smoke': () => stage.addSmoke('plain smoke'),
    'add.dust-in-light': () => stage.addParticles('dust in light'),
    'add.petal-burst': () => stage.addParticles('petal burst'),
    'add.falling-petals': () => stage.addParticles('falling petals'),
    'add.falling-leaves': () => stage.addParticles('falling leaves'),
    'add.falling-seeds': () => stage.addParticles('falling seeds'),
    'add.snow': () => stage.addParticles('snow'),
    'add.falling-ice': () => stage.addParticles('falling ice'),
    'add.falling-beads': () => stage.addParticles('falling beads'),
    'add.specks-from-the-product': () => stage.addParticles('specks from the product'),
    'kit.keep': () => stage.saveKit(),
  });
  useFinds(() => [
    ...[...campaign.products].map(([id, product]) => ({
      title: `Put ${product.name} on the set`,
      hint: 'Product',
      run: () => stage.addProduct(id),
    })),
    ...[...LIGHT_KITS, ...(campaign.campaign?.kits ?? [])].map((kit) => ({
      title: `Use ${typeof kit === 'string' ? kit : kit.name}`,
      hint: 'Light kit',
      run: () => stage.useKit(kit),
    })),
  ]);
}
