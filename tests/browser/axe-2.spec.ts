import { axeEverywhere } from './axe.ts';

axeEverywhere(2, 2);
