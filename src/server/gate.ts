import { poolSize } from './db.ts';

/** More is asked than can be answered: not that anything is away. */
export class Busy extends Error {}

/** How many work at once, how long the others wait at most (milliseconds), and how many may wait. */
export interface Room {
  atOnce: number;
  wait: number;
  most: number;
}

/**
 * Lets so many pieces of work in at once; the rest wait in the order they came. Whoever would wait too long, or would be one too many, is told
 * so, and whoever has left meanwhile is not worked for.
 */
export function gate({ atOnce, wait, most }: Room) {
  let inside = 0;
  const line = new Set<() => void>();

  /** Resolves when it is one's turn. */
  const turn = (left: AbortSignal | undefined) =>
    new Promise<void>((resolve, reject) => {
      const over = () => {
        line.delete(begin);
        clearTimeout(timer);
        left?.removeEventListener('abort', gone);
      };
      const begin = () => {
        over();
        resolve();
      };
      const refuse = (why: string) => {
        over();
        reject(new Busy(why));
      };
      const gone = () => refuse('nobody waits any more');
      const timer = setTimeout(() => refuse(`waited ${wait} ms`), wait);
      left?.addEventListener('abort', gone);
      line.add(begin);
    });

  return {
    inside: () => inside,
    waiting: () => line.size,
    /**
     * @param left is raised when nobody waits for the answer any more
     * @throws Busy where there is no room
     */
    async through<T>(work: () => Promise<T>, left?: AbortSignal): Promise<T> {
      if (left?.aborted) throw new Busy('nobody waits any more');
      if (inside < atOnce) inside += 1;
      else if (line.size >= most) throw new Busy(`${line.size} wait already`);
      // whoever goes out gives the place on
      else await turn(left);
      try {
        return await work();
      } finally {
        const [next] = line;
        if (next) next();
        else inside -= 1;
      }
    },
  };
}

/**
 * Pages are made so many at a time: a hundred at once would each take a connection of the pool from the others and be done at the same late
 * moment. What somebody confirms does not stand in that line, nor do the streams, which last.
 */
export const pages = gate({ atOnce: 2 * poolSize(), wait: 15_000, most: 1000 });
