<script lang="ts" module>
  import type { Component } from '$core/component/kinds';

  /** A piece that may be chosen, or why it may not. */
  export interface Offered {
    component: Component & { stock: number; shelf: string };
    refusal: string | null;
  }
</script>

<script lang="ts">
  import { PROPERTIES, type Property } from '$core/component/kinds';
  import { dimensionWords } from './dimension';

  interface Props {
    offered: Offered[];
    chosen: number | null;
    onchoose: (id: number) => void;
    label: string;
  }
  let { offered, chosen, onchoose, label }: Props = $props();
  const MAIN: Property[] = ['DC', 'DCONWS', 'LPR', 'LCF', 'OAL', 'RE'];
</script>

<!-- What may be chosen first; what may not stands below, with its reason. -->
<ul class="ruled-list mt-1 max-h-80 overflow-y-auto font-narrow" aria-label={label}>
  {#each offered as { component, refusal } (component.id)}
    <li>
      <button
        type="button"
        class={[
          'flex min-h-11 w-full items-center gap-3 px-1 text-left',
          chosen === component.id ? 'bg-primary text-primary-content' : 'hover:bg-base-300',
        ]}
        aria-pressed={chosen === component.id}
        onclick={() => onchoose(component.id)}
      >
        <span class="flex-1"
          ><b>{component.number}</b>
          {component.name}{#if refusal}<span
              class={['block text-sm', chosen === component.id ? '' : 'text-accent']}>{refusal}</span
            >{:else}<span class="block text-sm opacity-90"
              >{MAIN.filter((name) => component.dimensions[name] !== undefined)
                .slice(0, 3)
                .map(
                  (name) => `${PROPERTIES[name].short} ${dimensionWords(name, component.dimensions[name]!)}`,
                )
                .join(', ')}{component.series ? ` ${component.series}` : ''}</span
            >{/if}</span
        >
        <span class="text-sm whitespace-nowrap">{component.stock} on {component.shelf || 'the shelf'}</span>
      </button>
    </li>
  {:else}<li class="py-2">There is nothing of this kind in the catalogue.</li>
  {/each}
</ul>
