/** Assemblies that stand nowhere and fit a machine: the first of them by number, and whether there are more. */
export interface Loose {
  list: { id: number; number: string; name: string; flag: string | null }[];
  more: boolean;
}
