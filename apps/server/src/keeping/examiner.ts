import { fork, type ChildProcess } from 'node:child_process';
import { dirname } from 'node:path';
import PQueue from 'p-queue';

/** What is known of a picture once all of it has been decoded. */
export interface Examined {
  /** As the decoder calls it; nothing where it is no picture at all. */
  readonly format?: string;
  readonly width: number;
  readonly height: number;
  /** EXIF's, 1–8. */
  readonly orientation: number;
  /** Whether it is larger than was asked for: then it was not decoded. */
  readonly isTooLarge: boolean;
  /** Whether all of it could be decoded. */
  readonly isWhole: boolean;
}

export interface ExaminerOptions {
  /** Px a side, and in all, that a picture may have. */
  readonly side: number;
  readonly area: number;
  /** ms that a picture may take. */
  readonly patience?: number;
}

/** How long a picture may take, ms: the largest that are taken need a few seconds on a slow machine. */
const PATIENCE = 20_000;

/** What runs in the other process: it decodes what it is sent, one after the other. */
const CODE = `
const sharp = require('sharp');
const [side, area] = process.argv.slice(-2).map(Number);
process.on('disconnect', () => process.exit());
process.on('message', async (bytes) => {
  const header = await sharp(bytes, { limitInputPixels: false }).metadata().catch(() => undefined);
  const { format, width = 0, height = 0, orientation = 1 } = header ?? {};
  const isTooLarge = width > side || height > side || width * height > area;
  const whole = format && !isTooLarge
    ? sharp(bytes, { limitInputPixels: area, failOn: 'truncated' }).stats().then(() => true, () => false)
    : false;
  process.send({ format, width, height, orientation, isTooLarge, isWhole: await whole });
});
`;

/**
 * Decodes pictures in a process of its own, one at a time: what is hostile or huge must not hold up the threads that the
 * database shares with whoever decodes here.
 */
export class Examiner {
  private child: ChildProcess | undefined;
  private readonly queue = new PQueue({ concurrency: 1 });

  constructor(private readonly options: ExaminerOptions) {}

  /** Looks at all of a picture. Answers nothing for one that takes longer than there is patience, or ends the process. */
  examine(bytes: Buffer): Promise<Examined | undefined> {
    return this.queue.add(() => this.ask(bytes));
  }

  private ask(bytes: Buffer): Promise<Examined | undefined> {
    const child = (this.child ??= this.start());
    return new Promise((resolve) => {
      const timer = setTimeout(() => end(undefined), this.options.patience ?? PATIENCE);
      const end = (examined: Examined | undefined) => {
        clearTimeout(timer);
        child.off('message', end).off('exit', gone);
        // One that did not answer is given up, with whatever it is at.
        if (!examined) {
          child.kill('SIGKILL');
          this.child = undefined;
        }
        resolve(examined);
      };
      const gone = () => end(undefined);
      child.on('message', end).on('exit', gone);
      child.send(bytes);
    });
  }

  private start(): ChildProcess {
    const { side, area } = this.options;
    // Beside the decoder, so that it is found from wherever the server was started.
    const cwd = dirname(require.resolve('sharp'));
    const child = fork('-e', [CODE, String(side), String(area)], {
      ...{ cwd, serialization: 'advanced', stdio: ['ignore', 'ignore', 'inherit', 'ipc'], execArgv: [] },
    });
    // It must not keep a server that ends.
    child.unref();
    child.channel?.unref();
    return child;
  }
}
