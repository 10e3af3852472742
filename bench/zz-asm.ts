import { second } from './second.ts';
import * as K from '@tender-orbit/kernel';
