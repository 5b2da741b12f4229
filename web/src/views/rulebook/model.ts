import type { Schemas } from '../../api/client';

export type Shown = Schemas['RulebookShown'];
export type Ladder = Schemas['Ladder'];
export type Rung = Schemas['LadderRung'];
export type FieldTerm = Schemas['RulebookFieldTerm'];
export type Field = FieldTerm['field'];
export type Name = Schemas['ExpressionName'];
export type Operator = FieldTerm['operators'][number];
export type RuleEvent = Schemas['DeskRule']['event'];
export type Stage = Schemas['DeskRuleStay']['stage'];
export type Finding = Schemas['RuleReviewFinding'];

export interface Test {
  is: 'test';
  field: Field;
  operator: Operator;
  values: string[];
  negated: boolean;
}

export interface Parts {
  is: 'all' | 'any' | 'none';
  parts: Condition[];
}

/** In CEL, the Common Expression Language. */
export interface Expression {
  is: 'expression';
  text: string;
}

export type Condition = Test | Parts | Expression;

export type Action =
  | { do: 'addTag' | 'removeTag'; tag: string }
  | { do: 'setPriority'; priorityClass: number }
  | { do: 'setLevel'; level: string }
  | { do: 'hold'; reason: string }
  | { do: 'releaseHold' }
  | { do: 'useLadder'; ladder: string }
  | { do: 'excludeNode' | 'preferNode'; node: string }
  | { do: 'split' | 'waiting' | 'inPart' | 'replacing'; allowed: boolean }
  | { do: 'assign'; to: string }
  | { do: 'putOnList'; name: string }
  | { do: 'addNote'; text: string }
  | { do: 'notify'; to: string };

/** A desk rule as the server tells and takes it (`/api/rulebook/schema`). */
export interface Rule {
  id: string;
  name: string;
  on: boolean;
  event: RuleEvent;
  stay?: { stage: Stage; hours: number } | null;
  condition: Condition;
  actions: Action[];
  endsGroup: boolean;
}

export interface Group {
  name: string;
  rules: Rule[];
}

export type Change =
  | { change: 'putRule'; rule: Rule; was: Rule | null; group: string; before: string | null }
  | { change: 'removeRule'; was: Rule }
  | { change: 'moveRule'; rule: string; group: string; before: string | null }
  | { change: 'putLadder'; ladder: Ladder; was: Ladder | null }
  | { change: 'removeLadder'; was: Ladder };

/** The alternatives of conditions and actions can't be told in the generated types. */
export const groupsOf = (shown: Shown): Group[] => shown.body.groups as unknown as Group[];
export const ruleOf = (rule: Schemas['DeskRule']): Rule => rule as unknown as Rule;

/** A rule with its group and number, in the order in which rules are tried. */
export interface Placed {
  rule: Rule;
  group: string;
  number: number;
}

export const placed = (groups: Group[]): Placed[] =>
  groups
    .flatMap((g) => g.rules.map((rule) => ({ rule, group: g.name })))
    .map((p, i) => ({ ...p, number: i + 1 }));

export const blankTest = (): Test => ({
  is: 'test',
  field: 'COUNTRY',
  operator: 'IS',
  values: [],
  negated: false
});

export const blankRule = (id: string): Rule => ({
  id,
  name: '',
  on: true,
  event: 'RECEIVED',
  stay: null,
  condition: { is: 'all', parts: [blankTest()] },
  actions: [{ do: 'addTag', tag: '' }],
  endsGroup: false
});

/** An id that no rule has: short, and readable in a file. */
export function freshId(name: string, taken: string[]): string {
  const base =
    name
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-|-$/g, '')
      .slice(0, 30) || 'rule';
  for (let n = 1; ; n++) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.includes(id)) return id;
  }
}

/** What is done when an action's kind is chosen, before anything is said of it. */
export function blankAction(kind: Action['do'], ladders: string[], nodes: string[]): Action {
  switch (kind) {
    case 'addTag':
    case 'removeTag':
      return { do: kind, tag: '' };
    case 'setPriority':
      return { do: kind, priorityClass: 2 };
    case 'setLevel':
      return { do: kind, level: 'EXPRESS' };
    case 'hold':
      return { do: kind, reason: '' };
    case 'releaseHold':
      return { do: kind };
    case 'useLadder':
      return { do: kind, ladder: ladders[0] ?? '' };
    case 'excludeNode':
    case 'preferNode':
      return { do: kind, node: nodes[0] ?? '' };
    case 'split':
    case 'waiting':
    case 'inPart':
    case 'replacing':
      return { do: kind, allowed: false };
    case 'putOnList':
      return { do: kind, name: '' };
    case 'addNote':
      return { do: kind, text: '' };
    case 'assign':
    case 'notify':
      return { do: kind, to: '' };
  }
}

/** Moves a rule one place up or down; across the edge of its group it joins the next. */
export function moved(groups: Group[], id: string, by: 1 | -1): Change | undefined {
  const all = placed(groups);
  const at = all.findIndex((p) => p.rule.id === id);
  const here = all[at];
  const next = all[at + by];
  if (!here || !next) return undefined;
  const follower = all[at + 2];
  if (by === -1)
    return {
      change: 'moveRule',
      rule: id,
      group: next.group,
      before: next.group === here.group ? next.rule.id : null
    };
  if (next.group !== here.group)
    return { change: 'moveRule', rule: id, group: next.group, before: next.rule.id };
  return {
    change: 'moveRule',
    rule: id,
    group: here.group,
    before: follower?.group === here.group ? follower.rule.id : null
  };
}
