/** A quantity of a lot, in kilograms or pieces. */
export interface EpcisQuantity {
  readonly lot: string;
  /** What it is: written into the head of the document, beside the class. */
  readonly name?: string;
  readonly kilograms?: number;
  readonly pieces?: number;
}

export type EpcisHappening =
  | { readonly kind: 'received'; readonly from: string; readonly what: EpcisQuantity; readonly paper: string | null }
  | {
      readonly kind: 'made';
      readonly of: readonly EpcisQuantity[];
      readonly what: EpcisQuantity;
      readonly step: 'commissioning' | 'packing';
    }
  | { readonly kind: 'shipped'; readonly to: string; readonly what: EpcisQuantity; readonly paper: string };

export type EpcisInput = EpcisHappening & {
  /** Of the entry that recorded it, a UUID; the same event has the same one in every file. */
  readonly id: string;
  readonly at: string;
  /** Hours off UTC in the house then, as `+01:00`. */
  readonly offset: string;
};

export interface EpcisDocument {
  readonly '@context': readonly string[];
  readonly type: 'EPCISDocument';
  readonly schemaVersion: '2.0';
  readonly creationDate: string;
  /** What the goods are called: an address alone tells nobody. */
  readonly epcisHeader?: {
    readonly epcisMasterData: {
      readonly vocabularyList: readonly {
        readonly type: 'urn:epcglobal:epcis:vtype:EPCClass';
        readonly vocabularyElementList: readonly {
          readonly id: string;
          readonly attributes: readonly { readonly id: string; readonly attribute: string }[];
        }[];
      }[];
    };
  };
  readonly epcisBody: { readonly eventList: readonly EpcisEvent[] };
}

export interface EpcisEvent {
  readonly type: 'ObjectEvent' | 'TransformationEvent';
  readonly eventID: string;
  readonly eventTime: string;
  readonly eventTimeZoneOffset: string;
  readonly bizStep: 'receiving' | 'commissioning' | 'packing' | 'shipping';
  readonly disposition: 'in_progress' | 'active' | 'in_transit';
  readonly readPoint: { readonly id: string };
  readonly action?: 'OBSERVE' | 'ADD';
  readonly quantityList?: readonly EpcisElement[];
  readonly inputQuantityList?: readonly EpcisElement[];
  readonly outputQuantityList?: readonly EpcisElement[];
  readonly transformationID?: string;
  readonly sourceList?: readonly { readonly type: 'possessing_party'; readonly source: string }[];
  readonly destinationList?: readonly { readonly type: 'possessing_party'; readonly destination: string }[];
  readonly bizTransactionList?: readonly { readonly type: 'desadv'; readonly bizTransaction: string }[];
}

interface EpcisElement {
  readonly epcClass: string;
  readonly quantity: number;
  readonly uom?: 'KGM';
}

const CONTEXT = 'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld';
const rounded = (figure: number): number => Math.round(figure * 1000) / 1000;

/**
 * What came in, what was made of what, and what went out, as an EPCIS 2.0 document in JSON-LD. Lots and parties go by
 * addresses of the house, because nothing else of theirs is known everywhere. Source: handbook 5.4.
 */
export function writeEpcis(of: {
  /** Origin of the house, `https://house.example`: its lots stand below it. */
  readonly base: string;
  readonly at: string;
  readonly events: readonly EpcisInput[];
}): EpcisDocument {
  const lot = (code: string): string => `${of.base}/trace/${encodeURIComponent(code)}`;
  const party = (name: string): string => `${of.base}/party/${encodeURIComponent(name)}`;
  const element = ({ lot: code, kilograms, pieces }: EpcisQuantity): EpcisElement =>
    kilograms === undefined
      ? { epcClass: lot(code), quantity: pieces ?? 0 }
      : { epcClass: lot(code), quantity: rounded(kilograms), uom: 'KGM' };
  const eventList = of.events.map((one): EpcisEvent => {
    const head = {
      eventID: `urn:uuid:${one.id}`,
      eventTime: one.at,
      eventTimeZoneOffset: one.offset,
      readPoint: { id: of.base },
    };
    switch (one.kind) {
      case 'received':
        return {
          type: 'ObjectEvent',
          ...head,
          action: 'ADD',
          bizStep: 'receiving',
          disposition: 'in_progress',
          quantityList: [element(one.what)],
          sourceList: [{ type: 'possessing_party', source: party(one.from) }],
          ...(one.paper
            ? { bizTransactionList: [{ type: 'desadv', bizTransaction: `urn:paper:${encodeURIComponent(one.paper)}` }] }
            : {}),
        };
      case 'made':
        return {
          type: 'TransformationEvent',
          ...head,
          bizStep: one.step,
          disposition: 'active',
          inputQuantityList: one.of.map(element),
          outputQuantityList: [element(one.what)],
          transformationID: lot(one.what.lot),
        };
      case 'shipped':
        return {
          type: 'ObjectEvent',
          ...head,
          action: 'OBSERVE',
          bizStep: 'shipping',
          disposition: 'in_transit',
          quantityList: [element(one.what)],
          destinationList: [{ type: 'possessing_party', destination: party(one.to) }],
          bizTransactionList: [{ type: 'desadv', bizTransaction: `urn:paper:${encodeURIComponent(one.paper)}` }],
        };
    }
  });
  const named = new Map(
    of.events
      .flatMap((one) => (one.kind === 'made' ? [...one.of, one.what] : [one.what]))
      .flatMap(({ lot: code, name }) => (name === undefined ? [] : [[lot(code), name] as const])),
  );
  return {
    '@context': [CONTEXT],
    type: 'EPCISDocument',
    schemaVersion: '2.0',
    creationDate: of.at,
    ...(named.size > 0
      ? {
          epcisHeader: {
            epcisMasterData: {
              vocabularyList: [
                {
                  type: 'urn:epcglobal:epcis:vtype:EPCClass',
                  vocabularyElementList: [...named].map(([id, attribute]) => ({
                    id,
                    attributes: [{ id: 'urn:epcglobal:cbv:mda#descriptionShort', attribute }],
                  })),
                },
              ],
            },
          },
        }
      : {}),
    epcisBody: { eventList },
  };
}

const isUri = (text: unknown): boolean => typeof text === 'string' && /^(https?:\/\/|urn:)[^\s]+$/.test(text);
const isMoment = (text: unknown): boolean =>
  typeof text === 'string' && /^\d{4}-\d\d-\d\dT[\d:.]+(Z|[+-]\d\d:\d\d)$/.test(text);

/** The rules this house holds its own documents to, point by point; an empty list: it keeps them all. */
export function epcisProblems(document: EpcisDocument): string[] {
  const found: string[] = [];
  const say = (event: number, words: string): unknown => found.push(`event ${event + 1}: ${words}`);
  if (document.type !== 'EPCISDocument' || document.schemaVersion !== '2.0') found.push('no EPCIS document of 2.0');
  if (!isMoment(document.creationDate)) found.push('creationDate is no moment');
  const ids = new Set<string>();
  document.epcisBody.eventList.forEach((event, i) => {
    if (!/^urn:uuid:[0-9a-f-]{36}(-\d+)?$/.test(event.eventID)) say(i, `eventID ${event.eventID}`);
    if (ids.has(event.eventID)) say(i, `eventID twice: ${event.eventID}`);
    ids.add(event.eventID);
    if (!isMoment(event.eventTime)) say(i, 'eventTime is no moment');
    if (!/^[+-]\d\d:\d\d$/.test(event.eventTimeZoneOffset)) say(i, 'eventTimeZoneOffset');
    const elements = [
      ...(event.quantityList ?? []),
      ...(event.inputQuantityList ?? []),
      ...(event.outputQuantityList ?? []),
    ];
    if (elements.length === 0) say(i, 'nothing is in it');
    for (const { epcClass, quantity } of elements)
      if (!isUri(epcClass) || !(quantity >= 0)) say(i, `${epcClass} ${quantity}`);
    if (event.type === 'ObjectEvent' && !event.action) say(i, 'an ObjectEvent has an action');
    if (event.type === 'TransformationEvent' && (!event.inputQuantityList?.length || !event.outputQuantityList?.length))
      say(i, 'a TransformationEvent has what went in and what came out');
  });
  return found;
}
