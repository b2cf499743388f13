/** What is said of an assembly that must not cut: broken (look at the part first), out of life, or locked by a person (H11, H12). */
export const FLAGS = ['broken', 'expired', 'locked'] as const;
export type Flag = (typeof FLAGS)[number];
