const AUDIO = /\.(wav|wave|aif|aiff|aifc|flac|mp3|ogg|oga|opus|m4a|aac|webm|caf)$/i;

/** Whether a file is named as sounds are, and not one that a system keeps for itself. */
export const isSoundPath = (path: string): boolean =>
  AUDIO.test(path) && !path.split('/').some((p) => p.startsWith('.') || p === '__MACOSX');
