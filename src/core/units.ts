/**
 * Units of the whole project. Each is a plain number at run time; the brand exists for the compiler alone,
 * so that a tick can never be handed to something that wants seconds. Arithmetic gives plain numbers back:
 * wrap the result with the unit's function where it is one again.
 */
declare const unit: unique symbol;
type Unit<Name extends string> = number & { readonly [unit]: Name };

/** Musical time: {@link TICKS_PER_QUARTER} to a quarter note. Written ticks are integers, performed ones may be fractional or negative. */
export type Ticks = Unit<'ticks'>;
/** Quarter notes. */
export type Beats = Unit<'beats'>;
/** Real time in seconds. */
export type Seconds = Unit<'seconds'>;
/** Real time in milliseconds; leans and nudges: negative = early. */
export type Milliseconds = Unit<'milliseconds'>;
/** Quarter notes a minute, 20 to 300. */
export type Bpm = Unit<'bpm'>;
/** MIDI velocity, 1 to 127; fractional only while a feel is being computed. */
export type Velocity = Unit<'velocity'>;

export const ticks = (n: number): Ticks => n as Ticks;
export const beats = (n: number): Beats => n as Beats;
export const seconds = (n: number): Seconds => n as Seconds;
export const milliseconds = (n: number): Milliseconds => n as Milliseconds;
export const bpm = (n: number): Bpm => n as Bpm;
export const velocity = (n: number): Velocity => n as Velocity;

/** 2^8 x 3^2 x 5 x 7: binary divisions to 1/1024, triplets, quintuplets and septuplets are whole numbers of ticks. */
export const TICKS_PER_QUARTER = 80640;
export const TICKS_PER_WHOLE = 4 * TICKS_PER_QUARTER;

export const MIN_BPM = 20;
export const MAX_BPM = 300;

/** @example beatsToTicks(beats(1.5)) // 120960 */
export const beatsToTicks = (b: Beats): Ticks => ticks(b * TICKS_PER_QUARTER);
export const ticksToBeats = (t: Ticks): Beats => beats(t / TICKS_PER_QUARTER);
export const millisecondsToSeconds = (ms: Milliseconds): Seconds => seconds(ms / 1000);
export const secondsToMilliseconds = (s: Seconds): Milliseconds => milliseconds(s * 1000);

/** Rounds half up, as MIDI export does: 2.5 becomes 3, -2.5 becomes -2. */
export const roundHalfUp = (n: number): number => Math.floor(n + 0.5);

export const clamp = (n: number, low: number, high: number): number => (n < low ? low : n > high ? high : n);

/**
 * A playable velocity: rounded half up and limited to 1..127.
 * @example clampVelocity(96.5) // 97
 */
export const clampVelocity = (n: number): Velocity => velocity(clamp(roundHalfUp(n), 1, 127));

/** Minus zero becomes zero: kept as JSON it would come back as that anyway. */
export const withoutSign = (n: number): number => n + 0;
