import { z } from 'zod';
import { INTERFACES, INTERFACE_NAMES } from '$core/assembly/silhouette';
import { CHANGERS, CHANGER_KINDS } from '$core/changer/traits';
import { LENGTH_SCHOOLS, SCHOOL_WORDS } from '$core/length/schools';
import { EXPIRY_RULES } from '$core/life/count';
import { usualDialect } from '$core/program/dialect';
import { lengthOf, nanometres } from '$core/units/length';
import { parseLength } from '$core/units/parse-length';
import { addMachine } from '$server/machines';
import { act, ticked, whole, words } from '../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = () => ({
  ends: INTERFACE_NAMES.map((name) => ({ name, words: INTERFACES[name].words })),
  changers: CHANGER_KINDS.map((kind) => ({ kind, words: CHANGERS[kind].words, place: CHANGERS[kind].place })),
  schools: LENGTH_SCHOOLS.map((school) => ({ school, words: SCHOOL_WORDS[school] })),
});

/** What a shop says of a machine; lengths are read in its own unit. */
const machineForm = z
  .object({
    name: words('The name', 40),
    words: z.string().trim().max(200).default(''),
    kind: z.enum(['mill', 'lathe']),
    unit: z.enum(['mm', 'in']),
    changer: z.enum(CHANGER_KINDS),
    places: whole('The number of places', 1, 240),
    pitch: z.string(),
    interface: z.enum(INTERFACE_NAMES),
    highestTool: whole('The highest T', 1, 9999),
    highestSpeed: whole('The highest speed', 1, 100_000),
    knob: z.string().trim().max(20, 'The knob’s name is longer than 20 characters.').default(''),
    throughCoolant: ticked,
    school: z.enum(LENGTH_SCHOOLS),
    reference: z.string().default(''),
    cutter: z.enum(['diameter', 'radius']),
    increment: z.string(),
    rows: whole('The number of rows', 1, 999),
    expiry: z.enum(EXPIRY_RULES),
  })
  .transform((form, context) => {
    const length = (name: string, text: string, mayBeZero = false) => {
      const parsed = parseLength(text, form.unit);
      if (!parsed.ok) context.addIssue({ code: 'custom', message: `${name}: ${parsed.reason}` });
      else if (!mayBeZero && parsed.value <= 0)
        context.addIssue({ code: 'custom', message: `${name} must be above zero.` });
      return parsed.ok ? parsed.value : nanometres(0);
    };
    const pitch = length('The distance of the places', form.pitch);
    const increment = length('The least step', form.increment);
    const reference =
      form.school === 'gaugeLength'
        ? nanometres(0)
        : length(
            form.school === 'touchOff' ? 'The plane constant' : 'The length of the master tool',
            form.reference,
            form.school === 'touchOff',
          );
    return {
      name: form.name,
      kind: form.kind,
      words: form.words,
      unit: form.unit,
      changer: {
        kind: form.changer,
        places: form.places,
        pitchMillimetres: pitch / 1e6,
        cells: [],
        reserved: [],
        outOfService: [],
      },
      interface: form.interface,
      highestTool: form.highestTool,
      highestSpeed: form.highestSpeed,
      limits: {
        longest: null,
        widest: null,
        widestAlone: null,
        heaviestGrams: null,
        momentNewtonMetres: null,
        heaviestAllGrams: null,
        unbalanceKilogramMillimetres: null,
        swing: null,
        travelX: null,
        travelY: null,
      },
      knob: form.knob,
      throughCoolant: form.throughCoolant,
      lengthSchool: form.school,
      planeConstant: form.school === 'touchOff' ? reference : nanometres(0),
      masterLength: form.school === 'masterTool' ? reference : nanometres(0),
      x: 'diameter' as const,
      cutter: form.cutter,
      increment,
      // wear past this is a sign of a mistake; a machine's file can say another
      wearLimit: lengthOf(form.unit === 'mm' ? 1.5 : 0.06, form.unit),
      rows: form.rows,
      expiry: form.expiry,
      dialect: usualDialect(form.kind, form.unit),
    };
  });

export const actions: Actions = {
  add: act(machineForm, ({ input, asking }) => addMachine(asking, input)),
};
