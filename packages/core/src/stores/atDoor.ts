import { accept, type Outcome, refuse } from '../refusal.js';
import type { SupplyState } from './keeping.js';

/** What a material may ask for when it comes in. */
export const DOOR_ASKS = ['variety', 'state', 'celsius'] as const;
export type DoorAsk = (typeof DOOR_ASKS)[number];

export const DOOR_ASK_WORDS: Record<DoorAsk, string> = {
  variety: 'its variety',
  state: 'fresh, frozen or dried',
  celsius: 'its temperature',
};

export const DOOR_STATES = ['fresh', 'frozen', 'dried'] as const;
export type DoorState = (typeof DOOR_STATES)[number];

/** What was seen at the door, beside code, mass and condition. */
export interface AtDoor {
  readonly variety?: string | null | undefined;
  readonly state?: DoorState | null | undefined;
  /** Of the goods, by a thermometer, °C. */
  readonly celsius?: number | null | undefined;
}

const given = (door: AtDoor, ask: DoorAsk): boolean =>
  ask === 'celsius' ? Number.isFinite(door.celsius) : !!door[ask]?.trim();

/** What a material asks for and nobody said. */
export const doorMissing = (asks: readonly DoorAsk[], door: AtDoor | null | undefined): readonly DoorAsk[] =>
  asks.filter((ask) => !given(door ?? {}, ask));

/** A line comes in with what its material asks for at the door. */
export function decideAtDoor(input: {
  readonly what: string;
  readonly asks: readonly DoorAsk[];
  readonly door: AtDoor | null | undefined;
  readonly field: string;
}): Outcome<void> {
  const missing = doorMissing(input.asks, input.door);
  return missing.length === 0
    ? accept(undefined)
    : refuse(
        'supply.atDoor',
        `${input.what} is taken in with ${missing.map((ask) => DOOR_ASK_WORDS[ask]).join(' and ')}: so this house has it of every delivery. Give what is missing, or change what the material asks for.`,
        { field: `${input.field}.${missing[0]}`, facts: { missing } },
      );
}

/** How it is kept in the store from then on: frozen goods ask about a starter, as if they had been frozen here. */
export const stateAtDoor = (door: AtDoor | null | undefined): SupplyState =>
  door?.state === 'frozen' || door?.state === 'dried' ? door.state : 'asReceived';

/**
 * What was seen at the door, in words.
 * @example doorWords({ variety: 'Stone Head', state: 'fresh', celsius: 6.5 }) //=> 'Stone Head, fresh, 6.5 °C at the door'
 */
export const doorWords = (door: AtDoor | null | undefined): string =>
  [
    door?.variety?.trim(),
    door?.state,
    door?.celsius == null ? null : `${String(door.celsius).replace('-', '−')} °C at the door`,
  ]
    .filter(Boolean)
    .join(', ');
