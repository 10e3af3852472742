import type { Rule } from '../document/index.ts';

/** Id of the thing that a rule looks at; empty for none. */
export function watched(rule: Rule): string {
  return rule.kind !== 'ride' && 'target' in rule ? rule.target : '';
}

/**
 * The rules that act: those that are not muted, without any that would close a ring of things that wait for each other. Of a
 * ring the rule that comes last in the list gives way.
 */
export function withoutRings(rules: readonly Rule[]): Rule[] {
  const after = new Map<string, Set<string>>();
  return rules.filter((rule) => {
    if (rule.muted) return false;
    const target = watched(rule);
    if (!target) return true;
    if (closesRing(rule.thing, target, after)) return false;
    after.set(rule.thing, (after.get(rule.thing) ?? new Set()).add(target));
    return true;
  });
}

/** Whether `thing` looking at `target` makes a ring with what is known to look at what. */
function closesRing(thing: string, target: string, after: ReadonlyMap<string, ReadonlySet<string>>): boolean {
  if (thing === target) return true;
  return [...(after.get(target) ?? [])].some((next) => closesRing(thing, next, after));
}

/** Whether a rule could act beside others: it does not when it closes a ring with them. */
export function wouldRing(rule: Rule, others: readonly Rule[]): boolean {
  return !withoutRings([
    ...others.filter((other) => other.id !== rule.id && !other.muted),
    { ...rule, muted: false },
  ]).some((acting) => acting.id === rule.id);
}
