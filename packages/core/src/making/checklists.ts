import { effectsOf } from '../house/effects.js';
import type { Form } from '../vessels/forms.js';
import type { Station } from './stations.js';

/** Something looked at before a step that cannot be taken back. */
export interface CheckItem {
  readonly key: string;
  readonly words: string;
}

const item = (key: string, words: string): CheckItem => ({ key, words });

const WITH_CORE: ReadonlySet<Form> = new Set(['shred', 'leaf', 'sticks', 'mash']);

/** What is looked at, by where the work stands, and by what this house does. Source: handbook 1.1, 1.3, 2.4, 7. */
export function checklist(input: {
  station: Station;
  brined: boolean;
  heavy: boolean;
  form: Form;
  rules: Readonly<Record<string, string>>;
}): readonly CheckItem[] {
  const effects = effectsOf(input.rules);
  // Berries and cloves have no core.
  const house = (effects.checklist[input.station] ?? []).filter(
    ({ key }) => key !== 'core' || WITH_CORE.has(input.form),
  );
  const own = ofTrade(input, effects.sanitise);
  // What the house says of a thing stands in place of the general word.
  return [...own.filter(({ key }) => !house.some((one) => one.key === key)), ...house];
}

function ofTrade(
  { station, brined, heavy, form }: { station: Station; brined: boolean; heavy: boolean; form: Form },
  sanitise: boolean,
): readonly CheckItem[] {
  switch (station) {
    case 'inspect':
      return [
        item('firm', 'Fresh and firm, no mould at all'),
        item(
          'ends',
          form === 'leaf' ? 'Yellow leaves off' : form === 'shred' ? 'Bad spots out' : 'Stems and blossom ends off',
        ),
        ...(form === 'wholeSmall' || form === 'berries'
          ? [item('pierced', 'Pierced or pricked to the middle, so that brine gets inside')]
          : []),
      ];
    case 'rest':
      return form === 'shred' ? [item('covered', 'Its own juice covers it when pressed')] : [];
    case 'rinse':
      return [item('drained', 'Drained until it no longer drips')];
    case 'prepare':
      return [item('cool', 'Cooked preparations cooled to 30 °C or lower')];
    case 'clean':
      return [
        item('whole', 'No chip, crack or worn glaze'),
        item(
          'washed',
          sanitise ? 'Washed, then sanitised with its contact time' : 'Washed in hot soapy water and rinsed',
        ),
        item('tools', 'Weights, lids and tools too'),
      ];
    case 'fill':
      return [
        ...(brined
          ? [item('cooled', 'The brine is at 30 °C or lower'), item('dissolved', 'No crystal of salt is left')]
          : []),
        ...(heavy ? [item('tasted', 'The salt of the drained leaf is measured or tasted')] : []),
        item('flavoured', 'Everything of the formula is in, or left out with a reason'),
      ];
    case 'close':
      return [
        item('air', 'No air pockets; solids below the liquid'),
        item('heavy', 'The weight stays down'),
        item('headspace', 'Headspace as the vessel wants it'),
        item('tray', 'A tray under it where it may run over'),
      ];
    case 'label':
      return [item('stuck', 'The label is on the vessel, not on the lid')];
    default:
      return [];
  }
}
