import { nanometres } from '../../src/core/units/length.ts';
import { indexInserts } from '../../src/server/builds.ts';
import { pool, rows } from '../../src/server/db.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import {
  asSeen,
  groupsOf,
  initialiseGroup,
  readLives,
  removeGroup,
  writeGroup,
} from '../../src/server/groups.ts';
import { setLifeLimit, stopCounting } from '../../src/server/lives.ts';
import { dropLoadPlan, makeLoadPlan, openLoadPlan, stepWrong, tickStep } from '../../src/server/loads.ts';
import { geometryKinds, machineById, WEAR_KINDS } from '../../src/server/machines.ts';
import { changePocket, spindleUnsure } from '../../src/server/magazines.ts';
import type { Outcome } from '../../src/server/outcome.ts';
import { placesOf, placeTool, takeOut } from '../../src/server/places.ts';
import { callPocket } from '../../src/server/pocket-calls.ts';
import { recordPresetting } from '../../src/server/presettings.ts';
import { foundAtControl, measureTool, registersOf } from '../../src/server/registers.ts';
import { dropRenewal } from '../../src/server/renewal-dropped.ts';
import { openRenewal, otherGeometry, startRenewal, wearOf } from '../../src/server/renewals.ts';
import { checksOf, takeCheck } from '../../src/server/tool-checks.ts';
import { as, type weirside } from './cell.ts';
import { stepOf } from './egret.ts';
import type { Luck } from './player.ts';

export type Cell = Awaited<ReturnType<typeof weirside>>;

/** What somebody is about to do, with what their page showed: the same wherever things stand as they did then. */
export interface Act {
  what: string;
  run: () => Promise<Outcome<unknown>>;
}

/** What pages show of one machine at one moment, and above all of one of its tools. */
export async function shownOf(cell: Cell, machineId: number, luck: Luck) {
  const machine = (await machineById(pool(), machineId))!;
  const places = await placesOf(pool(), machineId);
  const standing = places.filter((each) => each.assembly !== null && each.tool !== null);
  const pick = <T>(all: readonly T[]): T | undefined => all[Math.floor(luck.next() * all.length)];
  const focus = pick(standing);
  return { cell, machine, places, standing, pick, happens: (share: number) => luck.next() < share, focus };
}
export type Shown = Awaited<ReturnType<typeof shownOf>>;
export type Maker = (shown: Shown) => Promise<Act | null>;

/** One of the machine's tools: mostly the same one for both. */
const aTool = ({ focus, standing, pick, happens }: Shown) => {
  const place = happens(0.75) ? focus : pick(standing);
  return place && { id: place.id, tool: place.tool!, assemblyId: place.assembly!.id };
};
const registersIn = async ({ machine }: Shown, row: number, kinds: readonly string[]) =>
  (await registersOf(pool(), machine.id)).filter((each) => each.row === row && kinds.includes(each.kind));
/** The machine as a page finds it when it is asked. */
const machineNow = async ({ machine }: Shown) => (await machineById(pool(), machine.id))!;

const looseOf = async ({ machine }: Shown) =>
  rows<{ id: number; number: string; name: string }>(
    pool(),
    `SELECT id, number, name FROM assembly a WHERE interface = $1 AND NOT EXISTS (SELECT FROM placement s WHERE s.assembly_id = a.id) ORDER BY id`,
    [machine.interface],
  );

const takeItOut: Maker = async (shown) => {
  const at = aTool(shown);
  return (
    (at && {
      what: `take T${at.tool} out`,
      run: () => takeOut(as(shown.cell.setter), { placeId: at.id, assemblyId: at.assemblyId, why: 'worn' }),
    }) ??
    null
  );
};
const putIn: Maker = async (shown) => {
  const place = shown.pick(
    shown.places.filter((each) => each.kind === 'pocket' && !each.assembly).slice(0, 3),
  );
  const loose = shown.pick((await looseOf(shown)).slice(0, 3));
  if (!place || !loose) return null;
  const tool = shown.happens(0.3)
    ? (shown.focus?.tool ?? 1)
    : Math.min(place.number, shown.machine.highestTool);
  return {
    what: `put ${loose.number} into ${place.number} as T${tool}`,
    run: () =>
      placeTool(as(shown.cell.setter), {
        placeId: place.id,
        assemblyId: loose.id,
        tool,
        knob: shown.machine.knob,
      }),
  };
};
const measure: Maker = async (shown) => {
  const at = aTool(shown);
  if (!at) return null;
  const own = await registersIn(shown, at.tool, geometryKinds(shown.machine.kind));
  const values = own.map(({ kind, value }) => ({
    kind,
    before: value,
    value: nanometres(value + (shown.happens(0.5) ? 3 : -2) * shown.machine.increment * 10),
  }));
  return {
    what: `measure T${at.tool}`,
    run: () =>
      measureTool(as(shown.cell.setter), {
        machineId: shown.machine.id,
        assemblyId: at.assemblyId,
        row: at.tool,
        values,
        gaugeLength: null,
        how: 'on the setter',
        method: 'typed',
      }),
  };
};
const found: Maker = async (shown) => {
  const at = aTool(shown);
  if (!at) return null;
  const register = shown.pick(
    await registersIn(shown, at.tool, [...geometryKinds(shown.machine.kind), ...WEAR_KINDS]),
  );
  if (!register) return null;
  return {
    what: `${register.kind} of row ${at.tool} found otherwise`,
    run: () =>
      foundAtControl(as(shown.cell.setter), {
        registerId: register.id,
        before: register.value,
        after: nanometres(register.value + shown.machine.increment * 5),
        why: 'keyed by somebody',
      }),
  };
};
const renew: Maker = async (shown) => {
  const at = aTool(shown);
  if (!at) return null;
  const { assemblyId, tool } = at;
  const open = await openRenewal(pool(), assemblyId);
  if (!open)
    return {
      what: `begin to renew T${tool}`,
      run: () => startRenewal(as(shown.cell.setter), assemblyId),
    };
  if (shown.happens(0.15))
    return {
      what: `drop the renewal of T${tool}`,
      run: () => dropRenewal(as(shown.cell.setter), { assemblyId, why: 'the wrong tool' }),
    };
  const done = new Set(open.steps.map(({ step }) => step));
  const next = (['changed', 'lifeSet', 'flagCleared', 'measured', 'wearZeroed'] as const).find(
    (each) => !done.has(each),
  )!;
  const own = await registersIn(shown, tool, geometryKinds(shown.machine.kind));
  const others = await otherGeometry(pool(), shown.machine.id, tool);
  const worn = await wearOf(pool(), shown.machine.id, tool);
  const moved = <T extends { value: number }>({ value }: T) => ({
    before: nanometres(value),
    value: nanometres(value + shown.machine.increment * 7),
  });
  return {
    what: `renew T${tool}: ${next}`,
    run: () =>
      stepOf(shown.cell, assemblyId, next, {
        ...(next === 'lifeSet' && { life: 60 }),
        ...(next === 'measured' && {
          row: tool,
          values: own.map((each) => ({ kind: each.kind, ...moved(each) })),
          others: others.map((each) => ({ registerId: each.id, ...moved(each) })),
        }),
        ...(next === 'wearZeroed' && {
          shown: worn.map(({ id }) => ({ registerId: id, value: nanometres(0) })),
        }),
      }),
  };
};
const flag: Maker = async (shown) => {
  const at = aTool(shown);
  const wanted = shown.pick(['locked', 'broken', null] as const);
  if (!at || wanted === undefined) return null;
  return {
    what: `flag T${at.tool} as ${wanted ?? 'good'}`,
    run: () =>
      flagAssembly(as(shown.cell.setter), {
        assemblyId: at.assemblyId,
        flag: wanted,
        why: 'as it was found',
      }),
  };
};
const limit: Maker = async (shown) => {
  const at = aTool(shown);
  if (!at) return null;
  const fullLife = shown.pick([40, 90])!;
  return shown.happens(0.2)
    ? {
        what: `count T${at.tool} no more`,
        run: () => stopCounting(as(shown.cell.lead), { assemblyId: at.assemblyId, why: 'never wears' }),
      }
    : {
        what: `T${at.tool} lasts ${fullLife} parts`,
        run: () =>
          setLifeLimit(as(shown.cell.lead), {
            assemblyId: at.assemblyId,
            basis: 'pieces',
            fullLife,
            left: null,
            why: 'by what was seen',
          }),
      };
};
const index: Maker = async (shown) => {
  const loose = shown.pick(
    await rows<{ id: number }>(
      pool(),
      `SELECT a.id FROM assembly a JOIN assembly_part p ON p.assembly_id = a.id AND p.role = 'insert'
       WHERE NOT EXISTS (SELECT FROM placement s WHERE s.assembly_id = a.id) ORDER BY a.id LIMIT 2`,
    ),
  );
  const id = shown.happens(0.8) ? loose?.id : aTool(shown)?.assemblyId;
  return id === undefined
    ? null
    : { what: `index the inserts of assembly ${id}`, run: () => indexInserts(as(shown.cell.setter), id) };
};
const preset: Maker = async (shown) => {
  const loose = shown.pick((await looseOf(shown)).slice(0, 3));
  if (!loose) return null;
  const gaugeLength = nanometres(140_000_000 + (shown.happens(0.5) ? 10_000 : 0));
  return {
    what: `preset ${loose.number}`,
    run: () =>
      recordPresetting(as(shown.cell.setter), {
        assemblyId: loose.id,
        gaugeLength,
        diameter: null,
        cornerRadius: null,
        runOut: null,
        instrument: 'presetter',
        confirmed: true,
      }),
  };
};
const call: Maker = async (shown) => {
  const place = shown.pick(shown.places.filter(({ kind }) => kind === 'pocket').slice(0, 4));
  const spindle = shown.places.find(({ kind }) => kind === 'spindle');
  if (!place) return null;
  return {
    what: `call pocket ${place.number}`,
    run: () =>
      callPocket(as(shown.cell.setter), {
        machineId: shown.machine.id,
        pocket: place.number,
        spindle: spindle?.assembly?.id ?? null,
        inPocket: place.assembly?.id ?? null,
      }),
  };
};
const pocket: Maker = async (shown) => {
  if (shown.happens(0.2))
    return {
      what: 'the spindle is not what the record says',
      run: () =>
        spindleUnsure(as(shown.cell.setter), { machineId: shown.machine.id, why: 'somebody called' }),
    };
  const place = shown.pick(shown.places.filter(({ kind }) => kind === 'pocket').slice(0, 4));
  if (!place) return null;
  const change = shown.pick(['outOfService', 'inService', 'reserved', 'released', 'heavy'] as const);
  return (
    (change && {
      what: `pocket ${place.number}: ${change}`,
      run: () => changePocket(as(shown.cell.setter), { placeId: place.id, change, why: 'so' }),
    }) ??
    null
  );
};
const group: Maker = async (shown) => {
  const one = shown.pick(await groupsOf(pool(), shown.machine.id));
  if (!one) return null;
  const dice = shown.happens(0.5);
  const seen = asSeen(one);
  if (shown.happens(0.1))
    return {
      what: `remove group ${one.number}`,
      run: async () => removeGroup(as(shown.cell.lead), await machineNow(shown), { id: one.id }),
    };
  if (shown.happens(0.4))
    return {
      what: `change group ${one.number}${dice ? ', without its last' : ''}`,
      run: async () =>
        writeGroup(as(shown.cell.lead), await machineNow(shown), {
          id: one.id,
          seen,
          group: {
            number: one.number,
            purpose: `${one.purpose} again`,
            ...one.rules,
            initialise: one.initialise,
            members: (dice ? one.members.slice(0, -1) : one.members).map(
              ({ tool, role, lengthRows, radiusRows }) => ({ tool, role, lengthRows, radiusRows }),
            ),
          } as never,
        }),
    };
  if (shown.happens(0.5))
    return {
      what: `lives of group ${one.number} read back`,
      run: async () =>
        readLives(as(shown.cell.setter), await machineNow(shown), {
          id: one.id,
          shown: one.members.map(({ tool, assembly }) => ({ tool, value: assembly?.life?.remaining ?? 0 })),
        }),
    };
  return {
    what: `group ${one.number} initialised`,
    run: async () =>
      initialiseGroup(as(shown.cell.setter), await machineNow(shown), {
        id: one.id,
        tools: one.members.map(({ tool }) => tool),
      }),
  };
};
const plan: Maker = async (shown) => {
  const open = await openLoadPlan(pool(), shown.machine);
  if (!open) {
    const out = shown.pick(shown.standing.filter(({ kind }) => kind === 'pocket'));
    return (
      (out && {
        what: `plan to take T${out.tool} out`,
        run: () =>
          makeLoadPlan(as(shown.cell.setter), {
            machineId: shown.machine.id,
            wanted: { tools: [], out: [out.assembly!.id] },
          }),
      }) ??
      null
    );
  }
  if (shown.happens(0.1))
    return { what: 'drop the load plan', run: () => dropLoadPlan(as(shown.cell.setter), open.id) };
  const next = open.left.ok ? open.left.steps[0] : undefined;
  if (!next) return null;
  if (shown.happens(0.2))
    return {
      what: 'a step of the plan is wrong',
      run: () => stepWrong(as(shown.cell.setter), { planId: open.id, key: next.key, why: 'it is not there' }),
    };
  return {
    what: `tick ${next.key}`,
    run: () =>
      tickStep(as(shown.cell.setter), {
        planId: open.id,
        key: next.key,
        confirmed: next.confirm.length,
        ...(next.turned && { turned: next.turned }),
      }),
  };
};
const check: Maker = async (shown) => {
  const checked = await checksOf(pool(), shown.machine);
  const one =
    checked.find(({ tool }) => shown.happens(0.7) && tool === shown.focus?.tool) ?? shown.pick(checked);
  if (!one || one.reference === null) return null;
  const broken = shown.happens(0.5);
  return {
    what: `check T${one.tool}: ${broken ? 'broken' : 'whole'}`,
    run: async () =>
      takeCheck(as(shown.cell.operator), await machineNow(shown), {
        tool: one.tool,
        assemblyId: one.assemblyId,
        method: one.method,
        measured: nanometres(one.reference! - (broken ? 5_000_000 : 0)),
        lastPart: null,
        source: 'typed',
      }),
  };
};

/** What is done with tools, their rows and the magazine. */
export const TOOL_ACTS: readonly Maker[] = [
  takeItOut,
  putIn,
  measure,
  found,
  renew,
  renew,
  flag,
  limit,
  index,
  preset,
  call,
  pocket,
  group,
  plan,
  plan,
  check,
];
