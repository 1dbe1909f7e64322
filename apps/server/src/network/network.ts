import { createServer, type Server } from 'node:https';
import type { RequestListener } from 'node:http';
import { broughtCertificate, type Certificate, houseCertificate } from './certificate.js';
import { networkNames } from './names.js';

export interface NetworkAsked {
  /** 0.0.0.0, or a name or an address of this machine. */
  readonly host: string;
  readonly port: number;
  /** Where keys and certificates of the house lie. */
  readonly folder: string;
  /** A certificate from elsewhere: its files. */
  readonly brought?: { readonly cert: string; readonly key: string };
}

/** How often it is looked whether a certificate ends, or this machine has another address. */
const LOOK_MS = 10 * 60_000;

/** The house on the workshop's network: an encrypted line beside the plain one of this machine itself. */
export class Network {
  private server: Server | null = null;
  private names: readonly string[] = [];
  private certificate: Certificate | null = null;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly asked: NetworkAsked,
    private readonly now: () => Date,
    private readonly onFault: (error: unknown) => void,
  ) {}

  /** Where other devices reach this house, the likeliest first: "https://192.168.1.20:4281". */
  addresses(): string[] {
    return this.names.map((name) => `https://${this.hostOf(name)}`);
  }

  /** "192.168.1.20:4281": what the host line of a request from the network reads. */
  hosts(): string[] {
    return this.names.map((name) => this.hostOf(name));
  }

  shown(): Certificate | null {
    return this.certificate;
  }

  /** @throws {Error} the port is taken, or the brought certificate does not serve */
  async serve(listener: RequestListener): Promise<void> {
    const { cert, key } = await this.look();
    this.server = createServer({ cert, key, minVersion: 'TLSv1.2' }, listener);
    // As on the plain line: what is quiet for five seconds is not closed under whoever writes on it just then.
    this.server.keepAliveTimeout = 65_000;
    this.server.headersTimeout = 70_000;
    // Whoever does not trust the certificate yet hangs up: no fault of this house.
    this.server.on('tlsClientError', () => undefined);
    await new Promise<void>((resolve, reject) => {
      this.server!.once('error', reject);
      this.server!.listen(this.asked.port, this.asked.host, () => resolve());
    });
    this.timer = setInterval(() => void this.again().catch(this.onFault), LOOK_MS);
    this.timer.unref();
  }

  /** Takes up a new address of this machine, and a certificate before the old one ends; open lines go on. */
  async again(): Promise<void> {
    const before = this.certificate?.cert;
    const { cert, key } = await this.look();
    if (cert !== before) this.server?.setSecureContext({ cert, key, minVersion: 'TLSv1.2' });
  }

  close(): void {
    if (this.timer) clearInterval(this.timer);
    this.server?.close();
    this.server?.closeIdleConnections();
  }

  closeAll(): void {
    this.server?.closeAllConnections();
  }

  private async look(): Promise<Certificate> {
    this.names = networkNames(this.asked.host);
    const { brought, folder } = this.asked;
    this.certificate = brought
      ? broughtCertificate(brought.cert, brought.key, this.now())
      : await houseCertificate(folder, [...new Set([...this.names, 'localhost', '127.0.0.1'])], this.now());
    return this.certificate;
  }

  private hostOf(name: string): string {
    return this.asked.port === 443 ? name : `${name}:${this.asked.port}`;
  }
}
