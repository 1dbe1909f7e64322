import type { RecallReply } from '@clear-tally/contract';
import { ANSWER_WORDS, noticeWords, RECALL_SCOPE_WORDS } from '@clear-tally/core';

type Place = RecallReply['places'][number];

/** What is recalled, in the words of a notice. */
export const whatOf = ({ subject, places }: Pick<RecallReply, 'subject' | 'places'>): string => {
  const names = [...new Set(places.flatMap(({ stretches }) => stretches.map(({ name }) => name)))];
  return names.length > 0 && names.length <= 4 ? names.join(', ') : `products made with ${subject.name}`;
};

/** Of each customer who has some: the notice that went, or what it would say. */
export function noticesOf(of: RecallReply, house: { readonly name: string; readonly contact: string | null }) {
  return of.places
    .filter(({ kind }) => kind === 'customer')
    .map((place) => ({
      customer: place.name,
      address: place.address,
      words:
        place.notice?.words ??
        noticeWords({
          house: house.name,
          drill: of.drill,
          customer: place.name,
          what: whatOf(of),
          reason: of.reason,
          jars: place.jars,
          codes: place.stretches.map(codesOf),
          contact: house.contact,
        }),
    }));
}

const codesOf = ({ name, sizeMl, first, last, count }: Place['stretches'][number]): string =>
  `${name}, ${count} × ${sizeMl} mL: ${first === last ? first : `${first} to ${last}`}`;

const after = (from: string, to: string): string => {
  const minutes = Math.max(0, Math.round((Date.parse(to) - Date.parse(from)) / 60_000));
  return minutes < 120 ? `${minutes} min after word came` : `${(minutes / 60).toFixed(1)} h after word came`;
};

/** The closing report as its paper takes it. */
export function reportOf(of: RecallReply, moment: (iso: string) => string) {
  return {
    code: of.code,
    drill: of.drill,
    subject: [of.subject.name, of.subject.code, of.subject.supplier, of.subject.supplierLotCode]
      .filter(Boolean)
      .join(', '),
    scope: RECALL_SCOPE_WORDS[of.scope] + (of.carryOver ? ', with vessels not cleaned after it' : ''),
    reason: of.reason,
    source: of.source,
    clock: [
      ['Word came', moment(of.heardAt), ''],
      ['List complete', moment(of.openedAt), after(of.heardAt, of.openedAt)],
      ...(of.closed ? [['Closed', moment(of.closed.at), after(of.heardAt, of.closed.at)] as const] : []),
    ] as (readonly [string, string, string])[],
    jars: of.jars,
    runs: of.runs,
    places: of.places.map((place) => ({
      name: place.name,
      jars: place.jars,
      accounted: place.accounted,
      stretches: place.stretches.map(codesOf),
      notes: [
        ...(place.notice ? [`word by ${place.notice.how}, ${moment(place.notice.at)}, ${place.notice.by}`] : []),
        ...place.answers.map(
          ({ count, answer, note, at, by }) =>
            `${count} ${ANSWER_WORDS[answer]}${note ? `: ${note}` : ''} (${moment(at)}, ${by})`,
        ),
      ],
    })),
    lots: of.lots.map(({ code, vesselTag, carryOver }) =>
      [code, vesselTag && `(${vesselTag})`, carryOver && '(not cleaned before)'].filter(Boolean).join(' '),
    ),
    outcome: of.closed?.outcome ?? null,
    restReason: of.closed?.restReason ?? null,
  };
}
