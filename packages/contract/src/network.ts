import { z } from 'zod';

/** How other devices reach this house. */
export const networkReply = z.strictObject({
  /** The likeliest first; none: this machine alone. */
  addresses: z.array(
    z.strictObject({
      address: z.string(),
      /** To be scanned with a tablet: a square of so many modules, row by row, "1" where it is dark. */
      symbol: z.strictObject({ size: z.int(), dark: z.string() }),
    }),
  ),
  /** Of the house's own root, which a device is told to trust once; null: the certificate is from elsewhere. */
  fingerprint: z.string().nullable(),
  /** When the certificate is made anew, or has to be brought anew. */
  until: z.iso.datetime().nullable(),
});
export type NetworkReply = z.infer<typeof networkReply>;
