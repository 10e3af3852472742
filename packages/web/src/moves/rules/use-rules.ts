import {
  addPath,
  addRule,
  findThing,
  propertyOf,
  RULE_KINDS,
  RULES,
  type Rule,
  type RuleKind,
} from '@tender-orbit/core/document';
import { suggestPath, suggestRule } from '@tender-orbit/core/staging';
import { useCampaign, useDocuments, useNotices, usePlayhead, useStage } from '../../stores/index.ts';
import { freshId } from '../../things/fresh-id.ts';
import type { MenuLines } from '../../ui/index.ts';
import { useMusicLevels } from '../use-music-levels.ts';
import { useMoveSelection } from '../../things/use-move-selection.ts';

/** Lays rules on threads and things. */
export function useRules(): {
  add: (kind: RuleKind, thing: string, path: string) => void;
  /** Lines of a menu with the rules that a thread can have. */
  threadLines: (thing: string, path: string) => MenuLines;
  /** The same for a whole thing. */
  thingLines: (thing: string) => MenuLines;
} {
  const campaign = useCampaign();
  const documents = useDocuments();
  const notices = useNotices();
  const playhead = usePlayhead();
  const stage = useStage();
  const moves = useMoveSelection();
  const musicLevels = useMusicLevels();

  function add(kind: RuleKind, thing: string, path: string): void {
    const { shot, products } = campaign;
    if (!stage.posed || !shot) return;
    const gesture = `rule-${Date.now()}`;
    if (kind === 'ride' && shot.paths.length === 0) {
      const way = suggestPath(freshId('path'), stage.posed, shot, thing);
      documents.run('shot', campaign.shotId, addPath(way), gesture);
    }
    const made = suggestRule(kind, {
      ...{ id: freshId('rule'), set: stage.posed, shot: campaign.shot!, products, thing, path },
      frame: playhead.frame,
    });
    if (!made) {
      notices.refuse(
        `${RULES[kind].title} needs another thing that does not wait for this one: a ring of things would never move.`,
      );
      return;
    }
    if (made.kind === 'music') void measured(made, gesture);
    else lay(made, gesture);
  }
  function lay(rule: Rule, gesture: string): void {
    documents.run('shot', campaign.shotId, addRule(rule), gesture);
    moves.choose('rule', rule.id);
  }
  /** The levels of the music over the shot are measured once and kept with the rule, so that takes need no music. */
  async function measured(rule: Extract<Rule, { kind: 'music' }>, gesture: string): Promise<void> {
    const levels = await musicLevels(rule.band);
    if (levels) lay({ ...rule, levels }, gesture);
  }
  const line = (kind: RuleKind, thing: string, path: string) => ({
    title: RULES[kind].title,
    run: () => add(kind, thing, path),
  });
  function threadLines(thing: string, path: string): MenuLines {
    const found = campaign.set && findThing(campaign.set, thing);
    const property = found && propertyOf(found, path);
    const number = property?.type === 'number' || property?.type === 'turn';
    return RULE_KINDS.filter((kind) => {
      const { ground } = RULES[kind];
      return ground === 'thread' || (ground === 'value' && number);
    }).map((kind) => line(kind, thing, path));
  }
  function thingLines(thing: string): MenuLines {
    const found = campaign.set && findThing(campaign.set, thing);
    if (!found || !('position' in found.thing)) return [];
    const camera = found.role === 'camera';
    const turns = 'turn' in found.thing;
    const whole = RULE_KINDS.filter((kind) => {
      if (RULES[kind].ground === 'value') return false;
      if (kind === 'keep-size') return camera;
      return kind !== 'roll' && kind !== 'shortest' && kind !== 'turn-order' ? true : turns;
    });
    const values = RULE_KINDS.filter((kind) => RULES[kind].ground === 'value');
    return [
      { heading: 'As a whole' },
      ...whole.map((kind) => line(kind, thing, '')),
      { heading: 'On its position' },
      ...values.map((kind) => line(kind, thing, 'position')),
      ...('aim' in found.thing ? [{ heading: 'On its aim' }, ...values.map((kind) => line(kind, thing, 'aim'))] : []),
    ];
  }
  return { add, threadLines, thingLines };
}
