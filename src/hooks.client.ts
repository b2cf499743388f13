import type { ClientInit } from '@sveltejs/kit';
import { waitForOwnData } from '$lib/patient';

export const init: ClientInit = () => waitForOwnData();
