/** A MIDI key, 0 to 127, as the name of a member. */
export const MIDI_KEY = /^(\d|[1-9]\d|1[01]\d|12[0-7])$/;
