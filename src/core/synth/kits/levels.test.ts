import { KIT_NAMES } from '../../model/sound';
import { recipeOf, SOUND_KITS } from './all';
import { levelOf } from './levels';

test('the levels that the player goes by are those of the recipes, for every voice and for a key that is none', () => {
  for (const kit of KIT_NAMES) {
    for (const [voice, { level }] of Object.entries(SOUND_KITS[kit].recipes))
      expect([kit, voice, levelOf(kit, voice)]).toEqual([kit, voice, level]);
    for (const voice of ['key-99', 'own:abc', 'snare:3', 'tom-high:2'])
      expect([kit, voice, levelOf(kit, voice)]).toEqual([kit, voice, recipeOf(kit, voice).level]);
  }
});
