import { word } from '../../parts/format';
import { money } from '../../parts/money';
import type { Action, Condition, Field, Finding, Operator, Placed, Rule, RuleEvent, Test } from './model';
import { session } from '../../state/session.svelte';

/** A piece of a rule's sentence: words, something that is asked or done, or what it is compared with. */
export interface Piece {
  text: string;
  kind: 'words' | 'term' | 'value';
}

const words = (text: string): Piece => ({ text, kind: 'words' });
const term = (text: string): Piece => ({ text, kind: 'term' });
const value = (text: string): Piece => ({ text, kind: 'value' });

export const EVENTS: Record<RuleEvent, string> = {
  RECEIVED: 'received',
  PAID: 'paid',
  APPROVED: 'approved',
  ROUTED: 'routed',
  SHORT: 'short of stock',
  RELEASED: 'released',
  REFUSED: 'refused by its node',
  PACKED: 'packed',
  SHIPPED: 'shipped',
  DELIVERED: 'delivered',
  RETURN_OPENED: 'to be sent back',
  AMENDED: 'amended',
  STAYS: 'standing'
};

export const FIELDS: Record<Field, string> = {
  CHANNEL: 'channel',
  SITE: 'channel site',
  PAYMENT: 'payment',
  PAYMENT_METHOD: 'payment method',
  SERVICE_ASKED: 'service asked for',
  COUNTRY: 'destination country',
  CITY: 'destination town',
  POSTCODE: 'destination postcode',
  BUYER: 'buyer’s mail',
  CUSTOMER_GROUP: 'buyer’s group',
  FIRST_ORDER: 'buyer’s first order',
  ORDERED_TWICE: 'ordered twice within hours',
  WEEKDAY: 'weekday',
  SKU: 'item SKU',
  GTIN: 'item GTIN',
  CATEGORY: 'item category',
  ITEM_TAG: 'item tag',
  SUPPLIER: 'item’s supplier',
  HOME_NODE: 'item’s home node',
  STOCKED_AT: 'node that has all of it',
  TAG: 'order tag',
  VALUE: 'value',
  WEIGHT: 'weight',
  UNITS: 'units',
  LINES: 'lines',
  AVAILABLE: 'units there are of its scarcest item',
  HOUR: 'hour of day',
  DAYS_TO_ARRIVAL: 'days to the arrival asked for'
};

/** In what numbers are given, where it is not just how many. */
export const unit = (field: Field): string =>
  field === 'VALUE' ? session.base : field === 'WEIGHT' ? 'g' : '';

export function operatorWords(operator: Operator, negated: boolean, many: boolean): string {
  switch (operator) {
    case 'IS':
      return (negated ? 'is not' : 'is') + (many ? (negated ? ' any of' : ' one of') : '');
    case 'BEGINS_WITH':
      return negated ? 'does not begin with' : 'begins with';
    case 'CONTAINS':
      return negated ? 'does not contain' : 'contains';
    case 'EXACTLY':
      return negated ? 'is not exactly' : 'is exactly';
    case 'OVER':
      return negated ? 'is at most' : 'is over';
    case 'UNDER':
      return negated ? 'is at least' : 'is under';
  }
}

/** Their values are constants. */
const CHOSEN: Field[] = ['PAYMENT', 'WEEKDAY', 'FIRST_ORDER', 'ORDERED_TWICE'];

/** A value as people write it: amounts with their cents. */
export function shownValue(field: Field, raw: string): string {
  if (field === 'VALUE') return `${money(Number(raw), session.base)} ${session.base}`;
  if (field === 'WEIGHT') return `${raw} g`;
  return CHOSEN.includes(field) ? word(raw) : raw;
}

export const ACTIONS: Record<Action['do'], string> = {
  addTag: 'tag it',
  removeTag: 'take off the tag',
  setPriority: 'set priority class',
  setLevel: 'set level',
  hold: 'hold it:',
  releaseHold: 'end the holds of rules',
  useLadder: 'use ladder',
  excludeNode: 'never send it from',
  preferNode: 'prefer to send it from',
  split: 'splitting is',
  waiting: 'waiting for what is short is',
  inPart: 'sending it in part is',
  replacing: 'sending something else is',
  assign: 'give it to',
  putOnList: 'put it on the list',
  addNote: 'note:',
  notify: 'tell by mail'
};

export function actionValue(action: Action): string {
  switch (action.do) {
    case 'addTag':
    case 'removeTag':
      return action.tag;
    case 'setPriority':
      return String(action.priorityClass);
    case 'setLevel':
      return word(action.level);
    case 'hold':
      return action.reason;
    case 'releaseHold':
      return '';
    case 'useLadder':
      return action.ladder;
    case 'excludeNode':
    case 'preferNode':
      return action.node;
    case 'split':
    case 'waiting':
    case 'inPart':
    case 'replacing':
      return action.allowed ? 'allowed' : 'forbidden';
    case 'putOnList':
      return action.name;
    case 'addNote':
      return action.text;
    case 'assign':
    case 'notify':
      return action.to;
  }
}

function testPieces(test: Test): Piece[] {
  const many = test.values.length > 1;
  return [
    term(FIELDS[test.field]),
    words(` ${operatorWords(test.operator, test.negated, many)} `),
    value(test.values.map((v) => shownValue(test.field, v)).join(', '))
  ];
}

function conditionPieces(condition: Condition, inner: boolean): Piece[] {
  if (condition.is === 'test') return testPieces(condition);
  if (condition.is === 'expression') return [value(condition.text)];
  const joint = condition.is === 'all' ? ' and ' : condition.is === 'any' ? ' or ' : ' nor ';
  const pieces = condition.parts.flatMap((part, i) => [
    ...(i ? [words(joint)] : []),
    ...conditionPieces(part, true)
  ]);
  if (condition.is === 'none') pieces.unshift(words('neither '));
  return inner && condition.parts.length > 1 ? [words('('), ...pieces, words(')')] : pieces;
}

/** A rule as it reads. */
export function sentence(rule: Rule): Piece[] {
  const when: Piece[] =
    rule.event === 'STAYS' && rule.stay
      ? [
          words('When an order has stood at '),
          term(word(rule.stay.stage)),
          words(' for '),
          value(`${rule.stay.hours} ${rule.stay.hours === 1 ? 'hour' : 'hours'}`)
        ]
      : [words('When an order is '), term(EVENTS[rule.event])];
  const asked = conditionPieces(rule.condition, false);
  const done = rule.actions.flatMap((action, i) => [
    words(i ? ', ' : ''),
    words(ACTIONS[action.do]),
    ...(actionValue(action) ? [words(' '), value(actionValue(action))] : [])
  ]);
  return [
    ...when,
    ...(asked.length ? [words(' and '), ...asked] : []),
    words(', '),
    ...done,
    words(rule.endsGroup ? ' and stop here.' : '.')
  ];
}

export const spoken = (rule: Rule): string =>
  sentence(rule)
    .map((p) => p.text)
    .join('');

/** What is certainly wrong with a rule, in words that name the rules in its way by their numbers. */
export function findingWords(finding: Finding, rules: Placed[]): string {
  const by = finding.by
    .map((id) => rules.find((p) => p.rule.id === id)?.number)
    .filter((n) => n !== undefined)
    .join(', ');
  switch (finding.fault) {
    case 'NEVER_HOLDS':
      return 'Can never hold: what it asks for contradicts itself.';
    case 'NEVER_REACHED':
      return `Is never reached: whenever it would hold, rule ${by} has stopped before it.`;
    case 'ALWAYS_OVERRULED':
      return `Can never decide: whenever it holds, rule ${by} undoes all of it.`;
    case 'CONTRADICTED':
      return `Contradicts rule ${by}, which undoes some of it whenever it holds.`;
  }
}
