import { beats } from '../beats';
import { groove } from '../groove';
import { onsets } from '../onsets';
import { perform } from '../perform';
import { render } from '../render';
import { report } from '../report';
import type { CallName } from '../fields';

/** What a child process can be asked: each call of the API, as it answers a request. */
export const CALLS: Readonly<Record<CallName, (request: Request) => Promise<Response>>> = {
  beats,
  groove,
  onsets,
  perform,
  render,
  report,
};
