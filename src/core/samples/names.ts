import type { VoiceName } from '../row-names';

/** What the name of a sound file tells: what it is a sound of, how hard it was struck, which take it is. */

/** Parts of a name: letters and numbers apart. @example wordsOf('SnareTop_v2-RR1') // ['snare', 'top', 'v', '2', 'rr', '1'] */
export const wordsOf = (name: string): string[] =>
  name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase()
    .match(/[a-z]+|\d+/g) ?? [];

type Words = ReadonlySet<string>;
const any = (words: Words, ...names: readonly string[]): boolean => names.some((n) => words.has(n));
const pair = (list: readonly string[], first: string, second: string): boolean =>
  list.some((w, i) => w === first && list[i + 1] === second);

const high = (w: Words): boolean => any(w, 'high', 'hi', 'h');
const low = (w: Words): boolean => any(w, 'low', 'lo', 'l');
const muted = (w: Words): boolean => any(w, 'mute', 'muted', 'closed', 'dead', 'damp');

/** Words that mean a voice, the more special before the plain. */
const RULES: readonly ((words: Words, list: readonly string[]) => VoiceName | false)[] = [
  (w, l) => (any(w, 'rimshot', 'rimshots') || pair(l, 'rim', 'shot')) && 'snare-rimshot',
  (w, l) =>
    (any(w, 'sidestick', 'xstick', 'crossstick', 'rimclick') ||
      pair(l, 'side', 'stick') ||
      pair(l, 'cross', 'stick') ||
      pair(l, 'rim', 'click')) &&
    'rim',
  (w) => any(w, 'sweep', 'swish', 'stir') && 'snare-sweep',
  (w) => any(w, 'ohh', 'oh', 'openhat') && 'hat-open',
  (w) => any(w, 'chh', 'ch', 'closedhat') && 'hat-closed',
  (w) => any(w, 'phh', 'pedalhat') && 'hat-pedal',
  (w, l) => {
    if (!any(w, 'hat', 'hats', 'hihat', 'hihats', 'hh') && !pair(l, 'hi', 'hat') && !pair(l, 'high', 'hat')) return false;
    if (any(w, 'foot', 'pedal', 'chick')) return any(w, 'splash', 'open') ? 'hat-splash' : 'hat-pedal';
    if (any(w, 'half', 'loose', 'semi', 'quarter')) return 'hat-half';
    if (any(w, 'open', 'opened', 'sizzle')) return 'hat-open';
    return any(w, 'shoulder', 'shank', 'edge') ? 'hat-shoulder' : 'hat-closed';
  },
  (w) => {
    if (!any(w, 'tom', 'toms', 'floortom', 'racktom')) return false;
    if (any(w, 'rim')) return 'tom-rim';
    if (any(w, 'floor', 'floortom', '4')) return 'tom-floor';
    if (low(w) || any(w, '3')) return 'tom-low';
    return high(w) || any(w, '1') ? 'tom-high' : 'tom-mid';
  },
  (w) => any(w, 'ride', 'rides', 'rd') && (any(w, 'bell', 'cup') ? 'ride-bell' : any(w, 'edge', 'crash') ? 'ride-edge' : 'ride'),
  (w) => any(w, 'splash') && 'splash',
  (w) => any(w, 'china') && 'china',
  (w) => any(w, 'crash', 'crashes', 'cymbal', 'cymbals', 'cym') && 'crash',
  (w, l) => (any(w, 'kick', 'kicks', 'kik', 'bd', 'bassdrum', 'kd') || pair(l, 'bass', 'drum')) && 'kick',
  (w) => any(w, 'clap', 'claps', 'handclap', 'cp') && 'clap',
  (w) => any(w, 'snare', 'snares', 'snr', 'sd', 'sn') && (any(w, 'edge') ? 'snare-edge' : any(w, 'rim') ? 'rim' : 'snare'),
  (w) => any(w, 'rim', 'rims', 'stick') && 'rim',
  (w, l) => (any(w, 'cowbell') || pair(l, 'cow', 'bell')) && 'cowbell',
  (w) => any(w, 'tambourine', 'tamb', 'tambo') && 'tambourine',
  (w) => any(w, 'shaker', 'shakers', 'shake', 'shk') && 'shaker',
  (w) => any(w, 'maracas', 'maraca') && 'maracas',
  (w) => any(w, 'cabasa') && 'cabasa',
  (w) => any(w, 'claves', 'clave') && 'claves',
  (w) => any(w, 'conga', 'congas') && (muted(w) || any(w, 'slap') ? 'conga-mute' : low(w) ? 'conga-low' : 'conga-high'),
  (w) => any(w, 'bongo', 'bongos') && (low(w) ? 'bongo-low' : 'bongo-high'),
  (w) => any(w, 'timbale', 'timbales') && (low(w) ? 'timbale-low' : 'timbale-high'),
  (w) => any(w, 'agogo') && (low(w) ? 'agogo-low' : 'agogo-high'),
  (w) => any(w, 'triangle') && (muted(w) ? 'triangle-mute' : 'triangle'),
  (w, l) => (any(w, 'woodblock', 'block') || pair(l, 'wood', 'block')) && (low(w) ? 'block-low' : 'block-high'),
  (w) => any(w, 'guiro') && (any(w, 'long') ? 'guiro-long' : 'guiro-short'),
  (w) => any(w, 'vibraslap') && 'vibraslap',
  (w) => any(w, 'whistle') && (any(w, 'long') ? 'whistle-long' : 'whistle-short'),
  (w) => any(w, 'cuica') && (muted(w) ? 'cuica-mute' : 'cuica-open'),
];

/**
 * What a sound file is a sound of, by its name, else by the nearest folder that tells; null where none does.
 * @example voiceOfPath('Hats/open_01.wav') // 'hat-open'
 */
export function voiceOfPath(path: string): VoiceName | null {
  const names = stemOf(path).split('/');
  // A folder says the kind, the file how it is struck: they are read together where the file alone says nothing.
  for (let from = names.length - 1; from >= 0; from--) {
    const list = wordsOf(names.slice(from).join(' '));
    const words = new Set(list);
    for (const rule of RULES) {
      const voice = rule(words, list);
      if (voice) return voice;
    }
  }
  return null;
}

/** A path without its ending. */
const stemOf = (path: string): string => path.replace(/\.[a-z0-9]{1,5}$/i, '');

const DYNAMICS: Readonly<Record<string, number>> = {
  ppp: 1,
  pp: 2,
  p: 3,
  mp: 4,
  mf: 5,
  f: 6,
  ff: 7,
  fff: 8,
  ghost: 1,
  softest: 1,
  soft: 2,
  light: 2,
  quiet: 2,
  medium: 4,
  med: 4,
  normal: 4,
  hard: 6,
  loud: 6,
  heavy: 6,
  hardest: 8,
  loudest: 8,
};
const LAYER_WORDS = new Set(['v', 'vel', 'velocity', 'vl', 'layer', 'lyr', 'dyn']);
const TAKE_WORDS = new Set(['rr', 'alt', 'robin', 'take', 'tk', 't', 'var', 'variation', 'hit', 'r']);

/** What a file's name says of it beside what it is. */
export interface Variant {
  /** What is left of the name, with its folder: files that share it may be one sound. */
  stem: string;
  /** How hard, where the name says it; the larger the harder, most often. */
  force: number | null;
  /** Which take, where the name says it. */
  take: number | null;
  /** A number that may be either. */
  number: number | null;
}

/** @example variantOf('Snare v2 rr1.wav') // { stem: 'snare', force: 2, take: 1, number: null } */
export function variantOf(path: string): Variant {
  const whole = stemOf(path);
  const at = whole.lastIndexOf('/');
  const words = wordsOf(whole.slice(at + 1));
  const kept: string[] = [];
  const found: Omit<Variant, 'stem'> = { force: null, take: null, number: null };
  for (let i = 0; i < words.length; i++) {
    const [word, next] = [words[i] as string, words[i + 1]];
    const isNumbered = next !== undefined && /^\d+$/.test(next);
    if (LAYER_WORDS.has(word) && isNumbered) found.force = Number(words[++i]);
    else if (TAKE_WORDS.has(word) && isNumbered) found.take = Number(words[++i]);
    // The first word is what it is: a file may be called "Hard" or "P".
    else if (i > 0 && word in DYNAMICS && found.force === null) found.force = DYNAMICS[word] as number;
    else if (i > 0 && /^[a-e]$/.test(word) && i === words.length - 1) found.take = word.charCodeAt(0) - 96;
    else if (/^\d+$/.test(word) && (i > 0 || words.length === 1) && i === words.length - 1) found.number = Number(word);
    else kept.push(word);
  }
  return { stem: `${whole.slice(0, at + 1).toLowerCase()}${kept.join(' ')}`, ...found };
}
