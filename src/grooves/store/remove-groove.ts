import { tell } from '@/ui/notify';
import { keptOf, type GroovesStoreApi } from './grooves-store';

/** Takes one of the user's grooves away; the toast puts it back. */
export function removeGroove({ getState }: GroovesStoreApi, id: string): void {
  const kept = keptOf(getState(), id);
  if (!kept) return;
  getState().remove(id);
  tell(`${kept.groove.name} is deleted.`, {
    label: 'Put it back',
    onClick: () => getState().keep(`Restore ${kept.groove.name}`, kept.groove, kept.tags),
  });
}
