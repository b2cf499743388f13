import { createHash, randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer } from 'node:http';
import { exportJWK, generateKeyPair, SignJWT } from 'jose';

/** A small identity provider of the tests' own (OpenID Connect Core 1.0, Discovery 1.0; RFC 7636 for PKCE), which lets one person in at a time. */
export interface Provider {
  issuer: string;
  /** Who is let in next; null: nobody. */
  who: string | null;
  /** What goes into the identity token in place of what belongs there. */
  forged: Record<string, unknown>;
  /** How often a token was given out. */
  tokens: number;
  stop(): Promise<void>;
}

interface Asked {
  who: string;
  nonce: string;
  challenge: string;
  redirect: string;
}

/** @param host another than the product's, so that a browser takes them for two sites */
export async function provider(
  client: { id: string; secret: string },
  host = 'localhost',
): Promise<Provider> {
  const { publicKey, privateKey } = await generateKeyPair('RS256');
  const codes = new Map<string, Asked>();
  const server = createServer((request, response) => {
    const url = new URL(request.url!, self.issuer);
    const json = (status: number, body: unknown) =>
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    const read = async () => {
      let text = '';
      for await (const part of request) text += String(part);
      return new URLSearchParams(text);
    };
    void (async () => {
      if (url.pathname === '/.well-known/openid-configuration')
        return json(200, {
          issuer: self.issuer,
          authorization_endpoint: `${self.issuer}/authorize`,
          token_endpoint: `${self.issuer}/token`,
          jwks_uri: `${self.issuer}/keys`,
          response_types_supported: ['code'],
          subject_types_supported: ['public'],
          id_token_signing_alg_values_supported: ['RS256'],
          code_challenge_methods_supported: ['S256'],
        });
      if (url.pathname === '/keys')
        return json(200, { keys: [{ ...(await exportJWK(publicKey)), kid: 'k', alg: 'RS256', use: 'sig' }] });
      if (url.pathname === '/authorize') {
        const asked = (name: string) => url.searchParams.get(name) ?? '';
        const back = new URL(asked('redirect_uri'));
        back.searchParams.set('state', asked('state'));
        if (
          self.who === null ||
          asked('client_id') !== client.id ||
          asked('code_challenge_method') !== 'S256'
        )
          back.searchParams.set('error', 'access_denied');
        else {
          const code = randomUUID();
          codes.set(code, {
            who: self.who,
            nonce: asked('nonce'),
            challenge: asked('code_challenge'),
            redirect: asked('redirect_uri'),
          });
          back.searchParams.set('code', code);
        }
        return response.writeHead(302, { location: back.href }).end();
      }
      if (url.pathname === '/token') {
        const form = await read();
        const code = form.get('code') ?? '';
        const asked = codes.get(code);
        codes.delete(code);
        const challenge = createHash('sha256')
          .update(form.get('code_verifier') ?? '')
          .digest('base64url');
        if (
          !asked ||
          challenge !== asked.challenge ||
          form.get('redirect_uri') !== asked.redirect ||
          form.get('client_id') !== client.id ||
          form.get('client_secret') !== client.secret
        )
          return json(400, { error: 'invalid_grant' });
        self.tokens += 1;
        const token = new SignJWT({ nonce: asked.nonce, sub: asked.who, ...self.forged })
          .setProtectedHeader({ alg: 'RS256', kid: 'k' })
          .setIssuedAt()
          .setExpirationTime('5m');
        if (!('iss' in self.forged)) token.setIssuer(self.issuer);
        if (!('aud' in self.forged)) token.setAudience(client.id);
        return json(200, {
          access_token: randomUUID(),
          token_type: 'Bearer',
          id_token: await token.sign(privateKey),
        });
      }
      return json(404, {});
    })();
  });
  const self: Provider = {
    issuer: '',
    who: null,
    forged: {},
    tokens: 0,
    async stop() {
      server.close();
      server.closeAllConnections();
      await once(server, 'close');
    },
  };
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  self.issuer = `http://${host}:${(server.address() as { port: number }).port}`;
  return self;
}
