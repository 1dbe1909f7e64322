import { z } from 'zod';
import type { DeviceAddress } from './link.js';

const schema = z
  .array(
    z.strictObject({
      id: z.string().regex(/^[a-z0-9-]{1,30}$/),
      host: z.string().min(1).max(200),
      port: z.number().int().min(1).max(65_535),
    }),
  )
  .max(20);

/**
 * Where the devices listen, from the environment: `[{"id":"scale-a","host":"127.0.0.1","port":4281}]`.
 * @throws {Error} what is wrong with it, in words for whoever starts the server
 */
export function deviceAddresses(text: string | undefined): DeviceAddress[] {
  if (!text) return [];
  const read = schema.safeParse(JSON.parse(text));
  if (!read.success)
    throw new Error(
      `CLEAR_TALLY_DEVICES is a list of { id, host, port }: ${read.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`).join('; ')}`,
    );
  return read.data;
}
