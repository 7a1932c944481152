import type { BarScope, Scope, StepScope } from '@/core/model/feel';
import { labelOfRow, rowsNamed } from '@/core/part/rows';
import { voiceOfAll } from '@/core/row-names';
import { labelOfVoice } from '@/core/voices';
import type { Part } from '@/core/model/part';

/** A scope in words. @example scopeWords(part, { voices: ['hat-closed'], bars: { from: 1, to: 4 } }) // 'Closed hat, bars 1 to 4' */
export function scopeWords(part: Pick<Part, 'rows'>, scope: Scope | undefined): string {
  if (!scope || Object.keys(scope).length === 0) return 'All rows, all bars';
  const words = [scope.voices ? voiceWords(part, scope.voices) : 'All rows'];
  if (scope.ghosts) words.push(scope.ghosts === 'only' ? 'ghosts alone' : 'no ghosts');
  if (scope.steps) words.push(stepWords(scope.steps));
  if (scope.bars) words.push(barWords(scope.bars));
  return words.join(', ');
}

function voiceWords(part: Pick<Part, 'rows'>, voices: readonly string[]): string {
  const names = voices.map((name) => nameOf(part, name)).map((n, i) => (i === 0 ? `${n[0]?.toUpperCase()}${n.slice(1)}` : n));
  if (names.length <= 3)
    return names
      .map((n, i) => (i === 0 ? n : n.toLowerCase()))
      .join(' and ')
      .replace(/ and (?=.* and )/g, ', ');
  return `${names[0]} and ${names.length - 1} more rows`;
}

/** All rows of a voice are named as such only where it has several. */
function nameOf(part: Pick<Part, 'rows'>, name: string): string {
  const voice = voiceOfAll(name);
  if (voice === null) return labelOfRow(part, name);
  const rows = rowsNamed(part, [name]);
  return rows.length > 1 ? labelOfVoice(name) : labelOfRow(part, rows[0] ?? voice);
}

/** Steps that have a name of their own, else their places counted from 1. */
export function stepWords({ grid, of, at }: StepScope): string {
  const sorted = [...at].sort((a, b) => a - b);
  const every = (n: number): boolean => of % n === 0 && sorted.length === of / n;
  if (every(2) && sorted.every((s) => s % 2 === 1)) return grid === '1/8' ? 'off-beats' : `every second ${grid}`;
  if (grid === '1/4' && sorted.length === of) return 'on-beats';
  if (grid === '1/8' && every(2) && sorted.every((s) => s % 2 === 0)) return 'on-beats';
  return `${grid} ${sorted
    .slice(0, 6)
    .map((s) => s + 1)
    .join(', ')}${sorted.length > 6 ? ' …' : ''} of ${of}`;
}

function barWords({ from, to, every, at }: BarScope): string {
  const range =
    from === undefined && to === undefined
      ? ''
      : from === to
        ? `bar ${from}`
        : to === undefined
          ? `from bar ${from}`
          : from === undefined
            ? `up to bar ${to}`
            : `bars ${from} to ${to}`;
  if (every === undefined || !at) return range;
  const cycle =
    every === 2 && at.length === 1
      ? at[0] === 1
        ? 'odd bars'
        : 'even bars'
      : `bars ${at.slice(0, 6).join(', ')}${at.length > 6 ? ' …' : ''} of each ${every}`;
  return range ? `${cycle}, ${range}` : cycle;
}
