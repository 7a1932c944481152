export const CALL_NAMES = ['perform', 'report', 'groove', 'onsets', 'beats', 'render'] as const;
export type CallName = (typeof CALL_NAMES)[number];

/** The fields that each call knows. */
export const FIELDS: Readonly<Record<CallName, readonly string[]>> = {
  perform: ['midi', 'part', 'feel', 'keepOtherTracks', 'ppq', 'order', 'channels', 'origin'],
  report: ['midi', 'part', 'grid', 'origin', 'channels', 'sticking', 'homes', 'leansFrom'],
  groove: [
    'midi',
    'part',
    'audio',
    'bars',
    'meter',
    'firstDownbeat',
    'voices',
    'perVoice',
    'levels',
    'beats',
    'stepsPerBeat',
    'name',
    'origin',
    'channels',
  ],
  onsets: ['audio', 'sensitivity'],
  beats: ['midi', 'events', 'taps', 'channels'],
  render: [
    'midi',
    'part',
    'kit',
    'feel',
    'rate',
    'bits',
    'fromBar',
    'toBar',
    'rows',
    'ending',
    'seed',
    'room',
    'master',
    'order',
    'channels',
    'origin',
  ],
};
