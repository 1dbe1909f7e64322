import { accept, type Outcome, refuse } from '../refusal.js';

/** What came by an event of somebody else's system, as a delivery list says it. */
export interface EpcisDelivery {
  /** As a delivery list begins: what each cell of a row is. */
  readonly head: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** Of each row, the event it came from. */
  readonly events: readonly string[];
  /** Events that say nothing of goods on their way here. */
  readonly aside: number;
}

const UNITS: Readonly<Record<string, string>> = {
  KGM: 'kg',
  GRM: 'g',
  LBR: 'lb',
  ONZ: 'oz',
  LTR: 'L',
  MLT: 'mL',
  '': 'pcs',
  EA: 'pcs',
  C62: 'pcs',
  H87: 'pcs',
};
const STEPS = ['receiving', 'shipping'];
const HEAD = ['material', 'supplier', 'lot', 'quantity', 'unit', 'use by'];

type Json = Readonly<Record<string, unknown>>;
const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const list = (value: unknown): readonly Json[] => (Array.isArray(value) ? value.filter(isObject) : []);
const word = (value: unknown): string => (typeof value === 'string' ? value : '');
/** The last part of an address or a name with colons: what tells it from its neighbours. */
const lastPart = (uri: string): string => decoded(uri.split(/[/:]/).filter(Boolean).at(-1) ?? '');

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/**
 * Reads what was sent or received from an EPCIS 2.0 document in JSON, as rows of a delivery list. A lot is read from a
 * class with a lot (`urn:epc:class:lgtin:…`), from a Digital Link (`…/01/…/10/…`) or as the end of an address; names of
 * goods and parties from the master data of its head where it has any. Nothing is guessed: what is not there is empty.
 * @returns the rows, or a refusal where it is no EPCIS document, or none of its events brings goods
 * @example readEpcis('{"type":"EPCISDocument", ... }') //=> { head: ['material', …], rows: [['Hot pepper', 'Grower', 'GP-7', '12.5', 'kg', '']], … }
 */
export function readEpcis(text: string): Outcome<EpcisDelivery> {
  const document = parsed(text);
  const body = isObject(document) && isObject(document['epcisBody']) ? document['epcisBody'] : null;
  if (!isObject(document) || document['type'] !== 'EPCISDocument' || !body)
    return refuse(
      'file.unreadable',
      'This is no EPCIS document: one begins with "type": "EPCISDocument" and has a body.',
    );
  const names = namesOf(document);
  const events = list(body['eventList']);
  const [rows, from]: [string[][], string[]] = [[], []];
  let aside = 0;
  for (const event of events) {
    const step = lastPart(word(event['bizStep']).replace(/^.*BizStep-/, ''));
    const goods = list(event['quantityList']);
    if (event['type'] !== 'ObjectEvent' || !STEPS.includes(step) || goods.length === 0) {
      aside += 1;
      continue;
    }
    const party = list(event['sourceList']).map((source) => word(source['source']))[0] ?? '';
    const ilmd = isObject(event['ilmd']) ? event['ilmd'] : {};
    for (const of of goods) {
      const at = word(of['epcClass']);
      const { product, lot } = classOf(at);
      const quantity = typeof of['quantity'] === 'number' ? String(of['quantity']) : '';
      rows.push([
        names.get(at) ?? names.get(product) ?? product,
        names.get(party) ?? lastPart(party),
        lot,
        quantity,
        UNITS[word(of['uom'])] ?? word(of['uom']),
        word(ilmd['cbvmda:itemExpirationDate']).slice(0, 10),
      ]);
      from.push(word(event['eventID']));
    }
  }
  return rows.length === 0
    ? refuse(
        'file.unreadable',
        `None of its ${events.length} events brings goods: none is a shipping or a receiving with quantities.`,
      )
    : accept({ head: HEAD, rows, events: from, aside });
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Which goods, and which lot of them. */
function classOf(uri: string): { product: string; lot: string } {
  const lgtin = /^urn:epc:class:lgtin:([^.]+\.[^.]+)\.(.+)$/.exec(uri);
  if (lgtin) return { product: lgtin[1]!, lot: decoded(lgtin[2]!) };
  const link = /\/01\/(\d{8,14})(?:\/22\/[^/]+)?\/10\/([^/?#]+)/.exec(uri);
  return link ? { product: link[1]!, lot: decoded(link[2]!) } : { product: '', lot: lastPart(uri) };
}

/** What the head of the document calls its goods and parties. */
function namesOf(document: Json): ReadonlyMap<string, string> {
  const header = isObject(document['epcisHeader']) ? document['epcisHeader'] : {};
  const data = isObject(header['epcisMasterData']) ? header['epcisMasterData'] : {};
  const names = new Map<string, string>();
  for (const vocabulary of list(data['vocabularyList']))
    for (const element of list(vocabulary['vocabularyElementList']))
      for (const { id, attribute } of list(element['attributes']))
        if (/#(descriptionShort|name|regulatedProductName)$/.test(word(id)) && word(attribute))
          names.set(word(element['id']), word(attribute));
  return names;
}
