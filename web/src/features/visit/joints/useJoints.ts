import type { Schemas } from '@/api/client';
import type { Visit } from '../useVisit';

export type Joint = Schemas['JointLine'];
export type JointsOfStep = Schemas['JointsStep'];

/** Writes something of joints down; the question when it is asked about, null once stored. */
export const sayJoint = (
  visit: Visit,
  entry: Schemas['TypedJoint'],
  place = '',
): Promise<string | null | undefined> => visit.say({ kind: 'joint', entry }, place);

/** Tells joints of a bank apart. */
export const keyOf = (own: Joint): string => `${own.battery} ${own.pole} ${own.part}`;
