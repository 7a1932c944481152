/** How far the hat's pedal is pressed (MIDI 1.0, controller 4: foot controller). */
export const FOOT_CONTROLLER = 4;
/** Where a pad was struck (MIDI 1.0, controller 16: general purpose 1). */
export const POSITION_CONTROLLER = 16;
