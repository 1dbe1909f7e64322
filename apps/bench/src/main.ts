import { SimulatedPhMeter } from './phMeter.js';
import { SimulatedPrinter } from './printer.js';
import { SimulatedScale } from './scale.js';
import { SimulatedScanner } from './scanner.js';
import { SimulatedThermometer } from './thermometer.js';
import { serve } from './serve.js';

/** The simulated bench: prints where each device listens, as the server wants to be told. */
const first = Number(process.env['BENCH_PORT'] ?? '0');
const at = (offset: number): number => (first === 0 ? 0 : first + offset);
const devices = [
  {
    id: 'scale-a',
    served: await serve(
      new SimulatedScale(
        'Scale A',
        [
          { capacityGrams: 3000, stepGrams: 1 },
          { capacityGrams: 15_000, stepGrams: 5 },
        ],
        7,
      ),
      at(0),
    ),
  },
  {
    id: 'scale-b',
    served: await serve(new SimulatedScale('Fine scale B', [{ capacityGrams: 500, stepGrams: 0.1 }], 11), at(1)),
  },
  { id: 'labels', served: await serve(new SimulatedPrinter('Label printer'), at(2)) },
  { id: 'ph', served: await serve(new SimulatedPhMeter('pH meter', 5), at(4)) },
  { id: 'kettle', served: await serve(new SimulatedThermometer('Kettle probe', 3), at(5)) },
  { id: 'scanner', served: await serve(new SimulatedScanner('Code scanner'), at(3)) },
];
process.stdout.write(
  `bench ${JSON.stringify(devices.map(({ id, served }) => ({ id, host: '127.0.0.1', port: served.port })))}\n`,
);

const stop = (): void => {
  devices.forEach(({ served }) => served.close());
  process.exit(0);
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
// Whoever started it may be gone without a word: then nobody needs a bench.
const parent = process.ppid;
setInterval(() => {
  if (process.ppid !== parent) stop();
}, 2000).unref();
