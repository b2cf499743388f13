import { axeEverywhere } from './axe.ts';

axeEverywhere(1, 2);
