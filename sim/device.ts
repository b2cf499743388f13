/** One machine's control behind an agent: what it says is numbered and kept in a buffer, as the open standard has it. */

export interface DeviceJob {
  made: number;
  /** Milliseconds of a cycle, and parts that come off in it. */
  cycle: number;
  parts: number;
  program?: string;
  /** The tools of a cycle in their order, and what share of it each takes. */
  calls?: { tool: number; share: number }[];
}

/** Rows of the offset table in mm, by the names of its columns. */
export type OffsetRows = Record<string, Record<string, number>>;

interface Said {
  sequence: number;
  at: string;
  item: string;
  text: string;
}

const ITEMS = {
  avail: { element: 'Availability', category: 'Events' },
  exec: { element: 'Execution', category: 'Events' },
  mode: { element: 'ControllerMode', category: 'Events' },
  program: { element: 'Program', category: 'Events' },
  tool: { element: 'ToolNumber', category: 'Events' },
  count: { element: 'PartCount', category: 'Events' },
  system: { element: 'SYSTEM', category: 'Condition' },
} as const;
type Item = keyof typeof ITEMS;

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign]!);

/** What keeps a machine from running on. */
export type Held = 'FEED_HOLD' | 'PROGRAM_STOPPED' | 'READY';

export class Device {
  readonly instance = String(Math.floor(Date.now() / 1000));
  private readonly now = new Map<string, Said>();
  private buffer: Said[] = [];
  private next = 1;
  private held: Held | 'ACTIVE' | null = null;
  private alarm = '';

  constructor(
    readonly name: string,
    private readonly job: DeviceJob | null,
    /** Parts made by now. */
    private readonly count: () => number,
    private readonly since: () => number,
    public offsets: OffsetRows,
    private readonly size = 4096,
    private readonly clock: () => number = Date.now,
  ) {}

  /** Puts the machine into another state: an alarm with its text, a held feed, or on again. */
  put(execution: Held | 'ACTIVE', alarm: string): void {
    this.held = execution === 'ACTIVE' ? null : execution;
    this.alarm = alarm;
    this.tick();
  }

  /** Says what is otherwise than it was. */
  tick(): void {
    const say = (item: Item, text: string) => {
      if (this.now.get(item)?.text === text) return;
      const said = { sequence: this.next, at: new Date(this.clock()).toISOString(), item, text };
      this.next += 1;
      this.now.set(item, said);
      this.buffer.push(said);
      if (this.buffer.length > this.size) this.buffer = this.buffer.slice(-this.size);
    };
    say('avail', 'AVAILABLE');
    say('mode', 'AUTOMATIC');
    say('program', this.job?.program ?? '');
    say('count', String(this.job ? this.count() : 0));
    say('exec', this.held ?? (this.job ? 'ACTIVE' : 'READY'));
    say('tool', String(this.tool()));
    say('system', this.alarm);
  }

  /** The T in cut, by how far the cycle is. */
  private tool(): number {
    const calls = this.job?.calls ?? [];
    if (!this.job || calls.length === 0) return 0;
    let left = ((this.clock() - this.since()) % this.job.cycle) / this.job.cycle;
    for (const { tool, share } of calls) {
      left -= share;
      if (left < 0) return tool;
    }
    return calls.at(-1)!.tool;
  }

  private get first(): number {
    return this.buffer[0]?.sequence ?? this.next;
  }

  private header(kind: string): string {
    return `<MTConnect${kind} xmlns="urn:mtconnect.org:MTConnect${kind}:1.6">
  <Header creationTime="${new Date(this.clock()).toISOString()}" sender="${this.name}" instanceId="${this.instance}" version="1.6" bufferSize="${this.size}" firstSequence="${this.first}" lastSequence="${this.next - 1}" nextSequence="`;
  }

  private streams(said: readonly Said[], next: number, table: string): string {
    const element = ({ item, sequence, at, text }: Said) => {
      const { element: name, category } = ITEMS[item as Item];
      const about = `dataItemId="${item}" sequence="${sequence}" timestamp="${at}"`;
      if (category === 'Condition')
        return text === ''
          ? `<Normal ${about} type="${name}"/>`
          : `<Fault ${about} type="${name}">${escaped(text)}</Fault>`;
      return `<${name} ${about}>${text === '' ? 'UNAVAILABLE' : escaped(text)}</${name}>`;
    };
    const of = (category: string) =>
      said.filter(({ item }) => ITEMS[item as Item].category === category).map(element);
    return `<?xml version="1.0" encoding="UTF-8"?>
${this.header('Streams')}${next}"/>
  <Streams><DeviceStream name="${this.name}" uuid="${this.name}"><ComponentStream component="Path" name="path" componentId="p">
    <Events>${of('Events').join('')}${table}</Events>
    <Condition>${of('Condition').join('')}</Condition>
  </ComponentStream></DeviceStream></Streams>
</MTConnectStreams>
`;
  }

  current(): string {
    this.tick();
    const rows = Object.entries(this.offsets);
    const table =
      rows.length === 0
        ? ''
        : `<ToolOffsetTable dataItemId="offsets" sequence="${this.first}" timestamp="${new Date(this.clock()).toISOString()}" count="${rows.length}">${rows
            .map(
              ([key, cells]) =>
                `<Entry key="${key}">${Object.entries(cells)
                  .map(
                    ([name, value]) =>
                      `<Cell key="${name}">${name === 'tipDirection' ? value : value.toFixed(5)}</Cell>`,
                  )
                  .join('')}</Entry>`,
            )
            .join('')}</ToolOffsetTable>`;
    return this.streams([...this.now.values()], this.next, table);
  }

  /** What was said since a sequence; null where the buffer does not hold that, as an agent refuses it. */
  sample(from: number, most: number): string | null {
    this.tick();
    if (from < this.first || from > this.next) return null;
    const said = this.buffer.filter(({ sequence }) => sequence >= from).slice(0, most);
    return this.streams(said, said.length === 0 ? this.next : said.at(-1)!.sequence + 1, '');
  }

  probe(): string {
    const items = Object.entries(ITEMS).map(
      ([id, { element, category }]) =>
        `<DataItem category="${category === 'Condition' ? 'CONDITION' : 'EVENT'}" id="${id}" type="${element.replace(/(?<=[a-z])(?=[A-Z])/g, '_').toUpperCase()}"/>`,
    );
    return `<?xml version="1.0" encoding="UTF-8"?>
${this.header('Devices')}${this.next}"/>
  <Devices><Device id="d" name="${this.name}" uuid="${this.name}"><Components><Controller id="c"><Components><Path id="p" name="path"><DataItems>${items.join('')}<DataItem category="EVENT" id="offsets" type="TOOL_OFFSET" representation="TABLE" units="MILLIMETER"/></DataItems></Path></Components></Controller></Components></Device></Devices>
</MTConnectDevices>
`;
  }

  refused(): string {
    return `<?xml version="1.0" encoding="UTF-8"?>
${this.header('Error')}${this.next}"/>
  <Errors><Error errorCode="OUT_OF_RANGE">'from' must be between ${this.first} and ${this.next}.</Error></Errors>
</MTConnectError>
`;
  }
}
