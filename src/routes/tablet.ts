/** The cookie that keeps which machine a tablet stands at: chosen by looking at the machine, kept for a year. */
export const MACHINE_COOKIE = 'tin-machine';
