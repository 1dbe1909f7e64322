import * as c from '@clear-tally/contract';
import type Router from '@koa/router';
import { z } from 'zod';

/** What a route is asked for, and what it answers with: a shape of the contract, or a file of a type. */
interface Answer {
  readonly says: string;
  readonly json?: z.ZodType;
  readonly file?: string;
  readonly body?: z.ZodType;
}

const PDF = 'application/pdf';
const is = (says: string, json: z.ZodType): Answer => ({ says, json });
const leaves = (says: string, file: string): Answer => ({ says, file });

/** Every route in one line. A test holds it against the routes there are. */
export const ANSWERS: Readonly<Record<string, Answer>> = {
  'GET /api/sign-in': is('Who may sign in here', c.signInReply),
  'GET /api/session': is('Who is signed in', c.sessionReply),
  'POST /api/session': { says: 'Sign in; the answer sets the cookie the other requests carry', json: c.sessionReply },
  'DELETE /api/session': { says: 'Sign out' },
  'POST /api/session/proof': { says: 'The PIN again, before a signature' },
  'POST /api/session/pin': { says: 'Change one’s own PIN' },
  'POST /api/found': { says: 'Found a house that has none yet', body: c.foundRequest },
  'POST /api/other-house': { says: 'Open the other house of this machine' },
  'POST /api/entries': { says: 'Record entries: all of them, or none', json: c.entriesReply, body: c.entriesRequest },
  'POST /api/corrections/preview': { says: 'What a correction would change', json: c.correctionReply },
  'POST /api/photos': { says: 'Keep a photo, by its bytes; the entry that names it follows' },
  'GET /api/photos/{id}': leaves('A photo', 'image/webp'),
  'GET /api/live': leaves('Notes of what was recorded, as they come', 'text/event-stream'),
  'GET /api/house': is('The house: rooms, vessels, materials, suppliers, rules', c.houseReply),
  'GET /api/house-rules/{rule}/history': is('Answers to a question of the house, the newest first', c.ruleHistoryReply),
  'GET /api/shelf': is('Every live vessel, as the shelf draws it', c.shelfReply),
  'GET /api/floor': is('Every live vessel in walking order, with what it needs', c.floorReply),
  'GET /api/watch/{code}': is('All that is watched on one vessel', c.watchReply),
  'GET /api/judge': is('A verdict on what is seen', c.judgeReply),
  'GET /api/equipment': is('Scales, tools, loose parts, water, and what was cleaned with what', c.equipmentReply),
  'GET /api/meters': is('Meters, and whether they are fit', c.metersReply),
  'GET /api/formulas': is('The book of formulas', c.formulasReply),
  'GET /api/formulas/{id}': is('A formula, in a version', c.formulaReply),
  'GET /api/formulas.json': leaves('The book of formulas as a file', 'application/json'),
  'GET /api/formulas/{id}/formula.json': leaves('A formula as a file', 'application/json'),
  'GET /api/formulas/{id}/recipe.jsonld': leaves('A formula as a recipe, schema.org', 'application/ld+json'),
  'GET /api/formulas/{id}/batch.csv': leaves('A scaled batch', 'text/csv'),
  'GET /api/formulas/{id}/worksheet.pdf': leaves('A worksheet', PDF),
  'GET /api/supplies': is('Supply lots', c.suppliesReply),
  'GET /api/stock': is('What stands in the stores', c.stockReply),
  'GET /api/making': is('Batches on the bench', c.makingReply),
  'GET /api/making/{id}': is('A batch and its run sheet', c.makeReply),
  'GET /api/timers': is('Timers that run', c.timersReply),
  'GET /api/starters': is('Kept brine and other starters', c.startersReply),
  'GET /api/lots': is('Lots, page by page', c.lotsReply),
  'GET /api/lots/{code}': is('The book of a lot', c.lotReply),
  'GET /api/journal': is('Everything recorded, the newest first', c.journalReply),
  'GET /api/entries/{id}': is('An entry as it can be put right', c.entryReply),
  'GET /api/looks': is('Looks of packed jars that are due', c.runsReply),
  'GET /api/runs': is('Packing runs', c.runsReply),
  'GET /api/runs/{code}': is('A run and its release', c.runReply),
  'GET /api/release-ahead': is('What a release will ask for', c.aheadReply),
  'GET /api/runs/{code}/dossier': is('The dossier of a run', c.dossierReply),
  'GET /api/runs/{code}/dossier.pdf': leaves('The dossier of a run', PDF),
  'GET /api/runs/{code}/heat': is('The heat of a run', c.runHeatReply),
  'GET /api/runs/{code}/labels': is('What stands on the labels of a run', c.labelsReply),
  'POST /api/runs/{code}/labels/preview': { says: 'A label laid out, before its design is kept' },
  'GET /api/runs/{code}/labels.pdf': leaves('Labels of a run', PDF),
  'GET /api/labels.pdf': leaves('Labels of lots', PDF),
  'GET /api/finishes': is('What is being finished', c.finishesReply),
  'GET /api/finishes/{code}': is('A finish and its steps', c.finishReply),
  'GET /api/processes': is('Heat processes on file', c.processesReply),
  'GET /api/jars': is('Jars in the house, by run and place', c.jarsReply),
  'GET /api/orders': is('What customers wait for', c.ordersReply),
  'GET /api/orders/{id}/pick.pdf': leaves('A pick list', PDF),
  'GET /api/dispatches/{id}/note.pdf': leaves('A delivery note', PDF),
  'GET /api/customers': is('Customers, and what they have', c.customersReply),
  'GET /api/packing/{id}': is('What packing a vessel asks for', c.packingReply),
  'GET /api/packable': is('Vessels to pack from', c.packableReply),
  'GET /api/codes/{code}': is('What a code stands for', c.codeReply),
  'GET /api/reach/{id}': is('What was taken from a lot already', c.reachReply),
  'GET /api/trace/{code}': is('The way of a jar or a lot', c.traceReply),
  'GET /api/trace/{code}/folded': is('What a fold of a large way stands for', c.foldedReply),
  'GET /api/asked-by/{by}/{id}': is(
    'What a customer, a day, a vessel, a room, a person, a meter had to do with',
    c.askedByReply,
  ),
  'POST /api/shared-cause': { says: 'What bad jars share', json: c.causeReply, body: c.causeRequest },
  'GET /api/tallies': is('Tallies that do not close', c.talliesReply),
  'GET /api/complaints': is('Complaints', c.complaintsReply),
  'PUT /api/complaints/{id}/contact': { says: 'Keep who complained, beside the book', body: c.complaintContact },
  'DELETE /api/complaints/{id}/contact': { says: 'Delete who complained, for good' },
  'GET /api/recalls': is('Recalls and drills', c.recallsReply),
  'GET /api/recall-ahead': is('What a recall would reach, before anything is held', c.recallAheadReply),
  'GET /api/recalls/{code}': is('A recall', c.recallReply),
  'GET /api/recalls/{code}/notices.pdf': leaves('Notices to its customers', PDF),
  'GET /api/recalls/{code}/report.pdf': leaves('Its report', PDF),
  'GET /api/records/events.jsonld': leaves('Received, made and sent as EPCIS 2.0 events', 'application/ld+json'),
  'GET /api/records/{sheet}.{as}': leaves('Records of one kind, XLSX or CSV, between two days', 'text/csv'),
  'GET /api/round.pdf': leaves('The round on paper', PDF),
  'GET /api/rights': is('Who may what', c.rightsReply),
  'GET /api/untrained': is('What the person signed in lacks a training for, today', c.untrainedReply),
  'GET /api/people': is('Who comes in', c.peopleReply),
  'POST /api/people/{id}/pin': { says: 'Give somebody a PIN' },
  'GET /api/people/{id}/looks': is('What an inspector looked at', c.looksReply),
  'DELETE /api/people/{id}/locks': { says: 'End what keeps somebody out' },
  'GET /api/network': is('Where other devices reach this house', c.networkReply),
  'GET /api/house.crt': leaves('The root this house signs its line with', 'application/x-x509-ca-cert'),
  'GET /api/verification': is('The last look at the whole house', c.verificationReply),
  'POST /api/verification': { says: 'Look at the whole house now', json: c.verificationReply },
  'GET /api/backups': is('Backups, and the last restore that was verified', c.backupsReply),
  'GET /api/chain-end.json': leaves('The end of the chain, signed', 'application/json'),
  'GET /api/calendar': is('Whether there is a private calendar address', c.calendarReply),
  'POST /api/calendar': { says: 'Make one; it is shown once' },
  'DELETE /api/calendar': { says: 'Take it back' },
  'GET /calendar/{token}.ics': leaves('Due checks and ready windows', 'text/calendar'),
  'GET /api/devices': is('Scales, meters, printers of the bench', c.devicesReply),
  'POST /api/devices/{id}/command': { says: 'A line to a device' },
  'POST /api/devices/{id}/print': { says: 'Print a label' },
  'POST /api/devices/{id}/print-jar': { says: 'Print a jar’s label' },
  'GET /api/house.json': leaves('The whole house as one file', 'application/json'),
  'GET /schemas/house.json': leaves('The schema of a file of a whole house', 'application/schema+json'),
  'GET /schemas/formula.json': leaves('The schema of a file of formulas', 'application/schema+json'),
  'GET /schemas/openapi.json': leaves('This description', 'application/json'),
};

const schemaOf = (shape: z.ZodType, io: 'input' | 'output'): object => {
  const { $schema: _, ...schema } = z.toJSONSchema(shape, { io, unrepresentable: 'any' }) as Record<string, unknown>;
  return schema;
};

/** Problem details (RFC 9457), with the code of the refusal, the field it is about and the figures it was decided by. */
const PROBLEM = {
  type: 'object',
  required: ['type', 'title', 'status', 'code', 'detail'],
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    code: { enum: [...c.PROBLEM_CODES] },
    detail: { type: 'string' },
    field: { type: 'string' },
    facts: { type: 'object' },
    entry: { type: 'integer' },
  },
} as const;

/** The routes a router knows, "GET /api/lots/{code}". */
export const routesOf = (router: Router): string[] =>
  router.stack.flatMap(({ methods, path }) =>
    methods
      .filter((method) => method !== 'HEAD')
      .map((method) => `${method} ${String(path).replace(/:(\w+)/g, '{$1}')}`),
  );

/** The description of these routes, OpenAPI 3.1, made from the shapes the server and the page check with. */
export function openApi(routes: readonly string[]): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of routes) {
    const [method, path] = route.split(' ') as [string, string];
    const answer = ANSWERS[route];
    (paths[path] ??= {})[method.toLowerCase()] = {
      summary: answer?.says ?? '',
      parameters: [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
        name,
        in: 'path',
        required: true,
        schema: { type: 'string' },
      })),
      ...(answer?.body
        ? {
            requestBody: {
              required: true,
              content: { 'application/json': { schema: schemaOf(answer.body, 'input') } },
            },
          }
        : {}),
      responses: {
        '200': {
          description: answer?.says ?? '',
          ...(answer?.json ? { content: { 'application/json': { schema: schemaOf(answer.json, 'output') } } } : {}),
          ...(answer?.file ? { content: { [answer.file]: {} } } : {}),
        },
        default: { $ref: '#/components/responses/Refused' },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Clear Tally',
      version: '1',
      description:
        'Every read of the house, and the one way in: entries. A request carries the cookie of a sign-in. What is refused says why, as problem details (RFC 9457).',
    },
    paths,
    components: {
      responses: {
        Refused: {
          description: 'Refused, with what was given, what is accepted, and why',
          content: { 'application/problem+json': { schema: PROBLEM } },
        },
      },
    },
  };
}
