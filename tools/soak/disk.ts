import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, statfsSync } from 'node:fs';
import { join } from 'node:path';

/** A disk for a data folder that can be filled up and emptied. */
export interface SmallDisk {
  folder: string;
  /** What the product keeps free there, MB. */
  roomMB: number;
  /** Whether it is a disk of its own, so that filling it makes writes fail for real. */
  real: boolean;
  fill: () => void;
  empty: () => void;
  remove: () => void;
}

const SIZE_MB = 1600;
const ROOM_MB = 200;
/** What a filler takes where the disk is everybody's, and the reserve is set so high that it counts. */
const SHARED_FILLER_MB = 3000;

const did = (command: string, args: string[]): boolean => {
  try {
    execFileSync(command, args, { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
};

/** A small disk of its own where the user may make one (root, in memory); else a reserve on the usual disk stands for it. */
export function smallDisk(folder: string): SmallDisk {
  mkdirSync(folder, { recursive: true });
  const real = did('mount', ['-t', 'tmpfs', '-o', `size=${SIZE_MB}m`, 'tmpfs', folder]);
  const filler = join(folder, 'filler');
  const freeMB = (): number => {
    const { bavail, bsize } = statfsSync(folder);
    return (bavail * bsize) / 1e6;
  };
  const roomMB = real ? ROOM_MB : Math.max(ROOM_MB, Math.round(freeMB() - SHARED_FILLER_MB / 2));
  return {
    folder,
    roomMB,
    real,
    fill: () => {
      // A few pages are left, so that some writes succeed and some don't.
      const take = real ? Math.max(1, Math.floor(freeMB() - 1)) : SHARED_FILLER_MB;
      did('fallocate', ['-l', `${take}MB`, filler]);
    },
    empty: () => rmSync(filler, { force: true }),
    remove: () => {
      if (real) did('umount', [folder]);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
