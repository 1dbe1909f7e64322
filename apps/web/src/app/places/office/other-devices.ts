import { Component, computed, signal } from '@angular/core';
import type { NetworkReply } from '@clear-tally/contract';
import { injectHouse } from '../../state/house';
import { shown } from '../../state/shown';
import { SymbolDrawing } from '../../ui/symbol-drawing';
import { Waiting } from '../../ui/waiting';
import { OfficeNav } from './office-nav';

/** How a device is told to trust the certificate of this house, by what runs on it. */
const TRUST: readonly { readonly on: string; readonly steps: readonly string[] }[] = [
  {
    on: 'iPad, iPhone',
    steps: [
      'Open the certificate below in the browser and allow the download.',
      'Settings, Profile downloaded: install it.',
      'Settings, General, About, Certificate trust settings: switch it on.',
    ],
  },
  {
    on: 'Android',
    steps: [
      'Save the certificate below.',
      'Settings, Security, Encryption and credentials, Install a certificate, CA certificate: choose the file.',
    ],
  },
  {
    on: 'Windows',
    steps: [
      'Save the certificate below and open it: Install certificate, Local machine.',
      'Place it under “Trusted root certification authorities”, and start the browser anew.',
    ],
  },
  {
    on: 'macOS',
    steps: [
      'Save the certificate below and open it: it goes into the keychain.',
      'Open it there, Trust: Always trust.',
    ],
  },
  {
    on: 'Linux',
    steps: [
      'Save it as /usr/local/share/ca-certificates/clear-tally-house.crt and run update-ca-certificates.',
      'In the browser: Settings, Certificates, Authorities, Import; trust it for websites.',
    ],
  },
];

/** How a tablet on the bench comes in: the address, a code to scan, and how it is told to trust the line. */
@Component({
  selector: 'ct-other-devices',
  imports: [OfficeNav, SymbolDrawing, Waiting],
  template: `
    <div class="page">
      <div class="main stack">
        <ct-office-nav />
        <h1>Other devices</h1>
        <ct-waiting [loading]="read.loading()" [problem]="read.problem()" (again)="read.again()" />
        @if (read.data(); as now) {
          @if (chosen(); as one) {
            <section class="way">
              <ct-symbol [size]="one.symbol.size" [dark]="one.symbol.dark" [words]="one.address + ' as a code'" />
              <div class="stack">
                <p>
                  Scan this with a tablet’s camera, or type it into its browser. Both have to be in the same network.
                </p>
                <p class="address figure">{{ one.address }}</p>
                @if (others().length > 0) {
                  <p class="soft">
                    Also:
                    @for (other of others(); track other.address) {
                      <button type="button" class="plain figure" (click)="picked.set(other.address)">
                        {{ other.address }}
                      </button>
                    }
                  </p>
                }
                <p class="soft small">
                  Who signs in on a new device types a PIN of six figures or more, or a passphrase: both are set under
                  “Who comes in”. After that four figures are enough there.
                </p>
              </div>
            </section>
            @if (now.fingerprint; as print) {
              <section class="stack rule" aria-labelledby="trust">
                <h2 id="trust">Each device is told once to trust this house</h2>
                <p>
                  The line is encrypted with a certificate made on this machine; no other house has it. Until a device
                  trusts it, its browser warns, and its camera stays off for scanning. The certificate of the line is
                  made anew by itself{{ until() ? ', before ' + until() : '' }}; what trusts the house goes on trusting
                  it.
                </p>
                <p>
                  <a class="button" href="/api/house.crt" download="clear-tally-house.crt">Save the certificate</a>
                </p>
                <p class="small">
                  Its fingerprint (SHA-256), to compare on the device:<br /><span class="figure print">{{
                    print
                  }}</span>
                </p>
                <div class="systems">
                  @for (system of trust; track system.on) {
                    <div>
                      <h3>{{ system.on }}</h3>
                      <ol>
                        @for (step of system.steps; track step) {
                          <li>{{ step }}</li>
                        }
                      </ol>
                    </div>
                  }
                </div>
              </section>
            } @else {
              <p class="note">
                The line is encrypted with a certificate from elsewhere, good until {{ until() }}. Bring the next one
                before that day, and start again.
              </p>
            }
          } @else {
            <p class="note">Now only this machine reaches the house.</p>
            <p>
              To open it to a tablet on the bench, stop it (Ctrl-C) and start it with the network. It makes a
              certificate of its own; the line is encrypted.
            </p>
            <p class="command figure">npm start -- --host 0.0.0.0</p>
            <p class="soft small">
              Then this page shows the address, a code to scan, and how a tablet is told to trust it. Started with the
              machine, as a service: docs/running.md.
            </p>
          }
        }
      </div>
    </div>
  `,
  styles: `
    .main {
      max-width: 1180px;
    }
    .way {
      display: grid;
      grid-template-columns: 212px minmax(0, 1fr);
      gap: 26px;
      align-items: start;
    }
    ct-symbol {
      width: 212px;
      height: 212px;
    }
    .address {
      font-size: 27px;
      font-weight: 700;
      white-space: normal;
      overflow-wrap: anywhere;
    }
    .print {
      white-space: normal;
      overflow-wrap: anywhere;
    }
    .command {
      background: var(--wash);
      padding: 12px 16px;
      justify-self: start;
    }
    .systems {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(270px, 1fr));
      gap: 18px 26px;
    }
    h3 {
      margin: 0 0 4px;
      font-size: 17px;
    }
    ol {
      list-style: decimal;
      padding-left: 22px;
    }
    @media (max-width: 640px) {
      .way {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class OtherDevices {
  private readonly house = injectHouse();
  protected readonly read = shown<NetworkReply>(signal('/api/network'));
  protected readonly trust = TRUST;
  protected readonly picked = signal<string | null>(null);
  protected readonly chosen = computed(() => {
    const all = this.read.data()?.addresses ?? [];
    return all.find(({ address }) => address === this.picked()) ?? all[0];
  });
  protected readonly others = computed(() =>
    (this.read.data()?.addresses ?? []).filter((one) => one !== this.chosen()),
  );
  protected readonly until = computed(() => {
    const until = this.read.data()?.until;
    return until ? this.house.dates().day(until) : null;
  });
}
