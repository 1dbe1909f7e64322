import { z } from 'zod';
import { ANSWERS } from '../src/http/openapi.js';
import { Client } from './client.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

interface Operation {
  readonly summary: string;
  readonly parameters: readonly { readonly name: string }[];
  readonly responses: Record<string, { content?: Record<string, { schema?: object }> }>;
  readonly requestBody?: { content: Record<string, { schema: object }> };
}

describe('the description for programs', () => {
  let house: TestHouse;
  let owner: Client;
  let paths: Record<string, Record<string, Operation>>;

  beforeAll(async () => {
    house = await openHouse('clear_tally_openapi');
    owner = await Client.signIn(house, house.owner);
    await dryBatch(house, { tag: 'C1', at: daysAgo(4) });
    const { body } = await owner.get<{ openapi: string; paths: typeof paths }>('/schemas/openapi.json');
    expect(body.openapi).toBe('3.1.0');
    paths = body.paths;
  });
  afterAll(() => house.close());

  const operations = () =>
    Object.entries(paths).flatMap(([path, of]) =>
      Object.entries(of).map(([method, operation]) => ({ route: `${method.toUpperCase()} ${path}`, path, operation })),
    );

  it('names every route there is, and none that is not', () =>
    expect(
      operations()
        .map(({ route }) => route)
        .sort(),
    ).toEqual(Object.keys(ANSWERS).sort()));

  it('says of each what it is, and what its address asks for', () => {
    for (const { route, path, operation } of operations()) {
      expect(operation.summary).withContext(route).not.toBe('');
      expect(operation.parameters.map(({ name }) => `{${name}}`)).toEqual(path.match(/\{\w+\}/g) ?? []);
    }
  });

  // What the house answers is read by the shape that the description gives, not by the contract's own.
  for (const [template, path] of [
    ['/api/house', '/api/house'],
    ['/api/shelf', '/api/shelf'],
    ['/api/floor', '/api/floor'],
    ['/api/lots', '/api/lots?kind=fill'],
    ['/api/supplies', '/api/supplies'],
    ['/api/formulas', '/api/formulas'],
    ['/api/making', '/api/making'],
    ['/api/journal', '/api/journal'],
    ['/api/rights', '/api/rights'],
    ['/api/customers', '/api/customers'],
    ['/api/recalls', '/api/recalls'],
    ['/api/meters', '/api/meters'],
  ] as const)
    it(`${path} answers as it is described`, async () => {
      const { schema } = paths[template]!['get']!.responses['200']!.content!['application/json']!;
      const { status, body } = await owner.get(path);
      expect(status).toBe(200);
      const read = z.fromJSONSchema(schema as Parameters<typeof z.fromJSONSchema>[0]).safeParse(body);
      expect(read.error?.issues ?? []).toEqual([]);
    });

  it('an entry that the house takes is one by the description; another is none', () => {
    const { schema } = paths['/api/entries']!['post']!.requestBody!.content['application/json']!;
    const entries = z.fromJSONSchema(schema as Parameters<typeof z.fromJSONSchema>[0]);
    const entry = {
      id: '018f6b1e-0000-7000-8000-000000000001',
      kind: 'ph.read',
      happenedAt: '2026-11-26T09:00:00.000Z',
      by: house.owner.id,
      device: 'a program',
      body: { lotId: '018f6b1e-0000-7000-8000-000000000002', ph: 3.7, sample: 'blended' },
    };
    expect(entries.safeParse({ entries: [entry] }).success).toBeTrue();
    expect(entries.safeParse({ entries: [{ ...entry, kind: 'ph.guess' }] }).success).toBeFalse();
    expect(entries.safeParse({ entries: [] }).success).toBeFalse();
  });
});
