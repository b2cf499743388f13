import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { ACT_WORDS } from '../../src/core/people/roles.ts';
import { closePool } from '../../src/server/db.ts';
import { asSuperuser } from '../support/databases.ts';
import { provider, type Provider } from '../support/provider.ts';
import { answerOf, ONE_LINE, PINS, startServer, Visitor, type RunningServer } from '../support/server.ts';
import { weirside } from '../support/cell.ts';

const CLIENT = { id: 'tin', secret: 'between us' };
let cell: Awaited<ReturnType<typeof weirside>>;
let plant: Provider;
let server: RunningServer;
let lead: Visitor;

beforeAll(async () => {
  cell = await weirside();
  plant = await provider(CLIENT);
  server = await startServer(cell.database.appUrl, {
    OIDC_ISSUER: plant.issuer,
    OIDC_CLIENT_ID: CLIENT.id,
    OIDC_CLIENT_SECRET: CLIENT.secret,
    OIDC_NAME: 'the mill’s account',
  });
  lead = new Visitor(server.url);
  await lead.enter(...PINS.lead!);
});
afterAll(async () => {
  await server.stop();
  await plant.stop();
  await closePool();
});
beforeEach(() => {
  plant.who = 'u-1002';
  plant.forged = {};
});

const asked = <R>(sql: string, values: unknown[] = []) =>
  asSuperuser(async (client) => (await client.query(sql, values)).rows as R[], cell.database.name);
const idOf = async (badge: string) =>
  (
    await asked<{ id: number; role: string; active: boolean; plantNumber: string | null }>(
      'SELECT id, role, active, plant_number AS "plantNumber" FROM person WHERE badge = $1',
      [badge],
    )
  )[0]!;

/** A browser of one's own, which goes step by step. */
class Walker {
  readonly jar = new Map<string, string>();
  async go(url: string): Promise<Response> {
    const answer = await fetch(url, {
      redirect: 'manual',
      headers: {
        ...ONE_LINE,
        accept: 'text/html',
        cookie: [...this.jar].map(([name, value]) => `${name}=${value}`).join('; '),
      },
    });
    for (const line of answer.headers.getSetCookie()) {
      const [pair] = line.split(';');
      const at = pair!.indexOf('=');
      if (/max-age=0/i.test(line)) this.jar.delete(pair!.slice(0, at));
      else this.jar.set(pair!.slice(0, at), pair!.slice(at + 1));
    }
    return answer;
  }
  /** To the provider and back; the address it comes back to. */
  async toAndBack(to = '/machines'): Promise<string> {
    const there = (await this.go(`${server.url}/sign-in/plant?to=${to}`)).headers.get('location')!;
    return (await fetch(there, { redirect: 'manual', headers: ONE_LINE })).headers.get('location')!;
  }
}

async function keep(badge: string, plantNumber: string, role?: string) {
  const person = await idOf(badge);
  return answerOf(
    await lead.send('/people?/change', {
      person: String(person.id),
      role: role ?? person.role,
      active: 'on',
      pin: '',
      plantNumber,
      shown: JSON.stringify({ ...person, plantNumber: person.plantNumber ?? '' }),
    }),
  );
}

describe('signing in by the plant’s identity provider', () => {
  it('is offered where it is set, and lets in whoever has a number here', async () => {
    expect(await (await fetch(`${server.url}/sign-in`)).text()).toContain('Sign in by the mill’s account');
    expect((await keep('1002', 'u-1002')).type).toBe('success');
    const walker = new Walker();
    const back = await walker.toAndBack('/machines/3/now');
    const answer = await walker.go(back);
    expect(answer.status).toBe(200);
    expect(await answer.text()).toContain('content="0;url=/machines/3/now"');
    expect((await walker.go(`${server.url}/machines/3/now`)).status).toBe(200);
    expect(walker.jar.has('tin-plant')).toBe(false);
    const [last] = await asked('SELECT badge, good, way FROM sign_in_attempt ORDER BY id DESC LIMIT 1');
    expect(last).toEqual({ badge: '1002', good: true, way: 'plant' });
  });

  it('goes nowhere but to a page of this server', async () => {
    const walker = new Walker();
    const answer = await walker.go(await walker.toAndBack('//elsewhere.invalid/'));
    expect(await answer.text()).toContain('content="0;url=/"');
  });

  it('tells whoever has no number here so, opens nothing, and shows the lead the number', async () => {
    plant.who = 'u-stranger';
    const walker = new Walker();
    const answer = await walker.go(await walker.toAndBack());
    expect(answer.headers.get('location')).toBe('/sign-in?plant=unknown');
    expect(walker.jar.has('tin-session')).toBe(false);
    expect(await (await walker.go(`${server.url}/sign-in?plant=unknown`)).text()).toContain(
      'nobody here has your number',
    );
    expect(await (await lead.get('/people/sessions')).text()).toContain('u-stranger');
  });

  it('lets nobody in who is no longer active', async () => {
    const { id, role } = await idOf('1006');
    expect((await keep('1006', 'u-1006')).type).toBe('success');
    await lead.send('/people?/change', {
      person: String(id),
      role,
      pin: '',
      shown: JSON.stringify({ role, active: true }),
    });
    plant.who = 'u-1006';
    const walker = new Walker();
    expect((await walker.go(await walker.toAndBack())).headers.get('location')).toBe(
      '/sign-in?plant=unknown',
    );
  });

  it('one number is one person’s', async () => {
    const answer = await keep('1003', 'u-1002');
    expect(answer.type).toBe('failure');
    expect(answer.data).toContain('has that number at the plant');
  });

  it.each([
    ['another browser', async (back: string) => new Walker().go(back)],
    [
      'the same twice',
      async (back: string, walker: Walker) => {
        const kept = new Map(walker.jar);
        await walker.go(back);
        const again = new Walker();
        for (const [name, value] of kept) again.jar.set(name, value);
        return again.go(back);
      },
    ],
    [
      'another state',
      async (back: string, walker: Walker) => walker.go(back.replace(/state=[^&]+/, 'state=made-up')),
    ],
    [
      'a code of nobody’s',
      async (back: string, walker: Walker) => walker.go(back.replace(/code=[^&]+/, 'code=made-up')),
    ],
    ['no code', async (back: string, walker: Walker) => walker.go(back.replace(/code=[^&]+/, 'x=y'))],
  ])('what comes back by %s is refused', async (_, come) => {
    await keep('1002', 'u-1002');
    const walker = new Walker();
    const answer = await come(await walker.toAndBack(), walker);
    expect(answer.headers.get('location')).toBe('/sign-in?plant=refused');
    expect(answer.headers.getSetCookie().some((line) => line.startsWith('tin-session'))).toBe(false);
  });

  it.each([
    ['for somebody else’s application', { aud: 'another' }],
    ['of another issuer', { iss: 'http://localhost:1' }],
    ['with another nonce', { nonce: 'made-up' }],
    ['without a number', { sub: '' }],
  ])('a token %s is refused', async (_, forged) => {
    await keep('1002', 'u-1002');
    plant.forged = forged;
    const walker = new Walker();
    expect((await walker.go(await walker.toAndBack())).headers.get('location')).toBe(
      '/sign-in?plant=refused',
    );
    expect(walker.jar.has('tin-session')).toBe(false);
  });

  it('the provider says no', async () => {
    plant.who = null;
    const walker = new Walker();
    expect((await walker.go(await walker.toAndBack())).headers.get('location')).toBe(
      '/sign-in?plant=refused',
    );
  });

  it('badge and PIN stay', async () => {
    const setter = new Visitor(server.url);
    expect((await setter.signIn(...PINS.setter!)).status).toBe(200);
    expect((await setter.get('/machines')).status).toBe(200);
  });

  it('a number taken away, and a new role, end what is open', async () => {
    for (const change of [() => keep('1002', ''), () => keep('1003', '', 'setter')]) {
      await keep('1002', 'u-1002');
      const [setter, operator] = [new Visitor(server.url), new Visitor(server.url)];
      await setter.enter(...PINS.setter!);
      await operator.enter(...PINS.operator!);
      await change();
      const open = [(await setter.get('/machines')).status, (await operator.get('/machines')).status];
      expect(open.filter((status) => status === 303)).toHaveLength(1);
    }
    await keep('1003', '', 'operator');
  });
});

it('where the provider does not answer it says so, and by PIN one still gets in', async () => {
  const alone = await startServer(cell.database.appUrl, {
    OIDC_ISSUER: 'http://127.0.0.1:1',
    OIDC_CLIENT_ID: CLIENT.id,
  });
  const answer = await fetch(`${alone.url}/sign-in/plant`, { redirect: 'manual', headers: ONE_LINE });
  expect(answer.headers.get('location')).toBe('/sign-in?plant=away');
  expect((await new Visitor(alone.url).signIn(...PINS.setter!)).status).toBe(200);
  await alone.stop();
});

it('what somebody’s role does not allow is written down for the lead, once in a while', async () => {
  const viewer = new Visitor(server.url);
  await viewer.enter(...PINS.inspector!);
  for (let i = 0; i < 3; i += 1)
    expect((await viewer.send('/machines/1/load?/drop', { plan: '1' })).status).toBe(403);
  const found = await asked<{ name: string; what: string }>(
    'SELECT p.name, r.what FROM refusal r JOIN person p ON p.id = r.person_id',
  );
  expect(found).toHaveLength(1);
  expect(found[0]!.what).toBe(`${ACT_WORDS.placeTools}, at /machines/1/load`);
  expect(await (await lead.get('/people/sessions')).text()).toContain(
    `${ACT_WORDS.placeTools}, at /machines/1/load`,
  );
});
