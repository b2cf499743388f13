<script lang="ts">
  import ActionForm from '$lib/ActionForm.svelte';
  import Field from '$lib/Field.svelte';
  import { dayAndClock } from '$lib/time';

  let { data } = $props();
  const zone = $derived(data.cell!.timeZone);
  let scopes = $state<string[]>([]);
  let kinds = $state<string[]>([]);
  let token = $state<string | null>(null);
  let secret = $state<string | null>(null);
</script>

<svelte:head><title>Other systems · Tin Almanac</title></svelte:head>

{#snippet end(action: string, id: number, label: string)}
  <ActionForm {action} {label}>
    {#snippet children({ busy })}<input type="hidden" name="id" value={id} /><button
        class="btn min-h-11"
        disabled={busy}
        aria-label={label}>End</button
      >{/snippet}
  </ActionForm>
{/snippet}
{#snippet toldOnce(what: string, text: string)}
  <div class="plate mt-3" role="status">
    <p class="font-semibold">{what}, told this once:</p>
    <p class="mt-1 font-mono break-all select-all">{text}</p>
    <p class="small-words mt-1">Copy it now: only a hash of a token is kept, and nobody can look it up.</p>
  </div>
{/snippet}

<h1 class="mt-5 text-3xl">Other systems</h1>
<p class="small-words mt-1">
  What they may ask and how is described in <a
    class="underline"
    href="/api/openapi.json"
    data-sveltekit-reload>/api/openapi.json</a
  > (OpenAPI 3.1).
</p>
<div class="mt-4 grid gap-8 lg:grid-cols-2">
  <section aria-labelledby="tokens">
    <h2 id="tokens" class="heading">Tokens</h2>
    <p class="small-words mt-1">What a system writes stands in the ledger under the name of its token.</p>
    {#if token}{@render toldOnce('The token', token)}{/if}
    <ul class="ruled-list mt-2">
      {#each data.tokens as each (each.id)}
        <li class="flex flex-wrap items-center gap-x-4 py-1.5">
          <span class="grow"
            ><b>{each.name}</b>{#if each.endedAt}, ended{/if}<br /><span class="small-words"
              >{each.scopes.join(', ')}; made by {each.madeBy}, {each.usedAt
                ? `last used ${dayAndClock(each.usedAt, zone)}`
                : 'never used'}</span
            ></span
          >
          {#if !each.endedAt}{@render end('?/endToken', each.id, `End the token of ${each.name}`)}{/if}
        </li>
      {:else}<li class="py-2">None.</li>{/each}
    </ul>
    <ActionForm
      action="?/token"
      label="Make a token"
      class="mt-3 grid gap-2"
      onDone={(done: { token: string | null }) => {
        token = done.token;
        scopes = [];
      }}
    >
      {#snippet children({ busy })}
        <Field label="Name of the system"
          ><input class="input" name="name" maxlength="80" required autocomplete="off" /></Field
        >
        <fieldset class="grid sm:grid-cols-2">
          <legend class="font-semibold">It may</legend>
          {#each data.scopes as { scope, said } (scope)}<label class="flex min-h-11 items-center gap-2"
              ><input class="checkbox" type="checkbox" value={scope} bind:group={scopes} />{said}</label
            >{/each}
        </fieldset>
        <input type="hidden" name="scopes" value={scopes.join(' ')} />
        <div><button class="btn min-h-11 btn-primary" disabled={busy}>Make the token</button></div>
      {/snippet}
    </ActionForm>
  </section>
  <section aria-labelledby="webhooks">
    <h2 id="webhooks" class="heading">Told of what happens</h2>
    <p class="small-words mt-1">
      Each entry is sent as it is written, in their order, again until it is taken; signed, so that the
      receiver knows it is from here.
    </p>
    {#if secret}{@render toldOnce('The secret of its signatures', secret)}{/if}
    <ul class="ruled-list mt-2">
      {#each data.webhooks as each (each.id)}
        <li class="flex flex-wrap items-center gap-x-4 py-1.5">
          <span class="min-w-0 grow"
            ><b class="break-all">{each.url}</b>{#if each.endedAt}, ended{/if}<br /><span class="small-words"
              >{each.kinds.join(', ')}; told up to entry {each.told}</span
            >{#if each.problem && !each.endedAt}<br /><span class="caution"
                >{each.problem} Tried {each.tries}
                {each.tries === 1 ? 'time' : 'times'}, nothing is lost.</span
              >{/if}</span
          >
          {#if !each.endedAt}{@render end('?/endWebhook', each.id, `Tell ${each.url} nothing any more`)}{/if}
        </li>
      {:else}<li class="py-2">None.</li>{/each}
    </ul>
    <ActionForm
      action="?/webhook"
      label="Tell another system"
      class="mt-3 grid gap-2"
      onDone={(done: { secret: string | null }) => {
        secret = done.secret;
        kinds = [];
      }}
    >
      {#snippet children({ busy })}
        <Field label="Its address"
          ><input class="input" name="url" type="url" maxlength="500" required autocomplete="off" /></Field
        >
        <fieldset class="grid grid-cols-2 sm:grid-cols-3">
          <legend class="font-semibold">Entries of</legend>
          {#each data.kinds as kind (kind)}<label class="flex min-h-11 items-center gap-2"
              ><input class="checkbox" type="checkbox" value={kind} bind:group={kinds} />{kind}</label
            >{/each}
        </fieldset>
        <input type="hidden" name="kinds" value={kinds.join(' ')} />
        <div><button class="btn min-h-11 btn-primary" disabled={busy}>Tell it from now on</button></div>
      {/snippet}
    </ActionForm>
  </section>
</div>
