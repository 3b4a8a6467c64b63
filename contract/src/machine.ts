import { array, mixed, number, object, string, type Schema } from 'yup';

/** What the practice machine is doing. */
export const MACHINE_STATES = ['idle', 'ready', 'sewing', 'waiting', 'paused', 'broken', 'done'] as const;
export type MachineState = (typeof MACHINE_STATES)[number];

/** What an operator does at it. */
export const MACHINE_ACTIONS = ['start', 'pause', 'resume', 'threaded', 'continue', 'break', 'mended', 'stop'] as const;
export type MachineAction = (typeof MACHINE_ACTIONS)[number];

export interface MachineHoop {
  readonly id: string;
  readonly name: string;
  readonly widthMm: number;
  readonly heightMm: number;
}

export interface MachineSettings {
  readonly needles: 1 | 6;
  readonly hoop: string;
  /** Stitches a minute. */
  readonly speed: number;
  /** How many times as fast as a real one it sews. */
  readonly timeScale: number;
}

export interface Machine {
  readonly needles: readonly { readonly needle: number; readonly hex: string | null }[];
  readonly hoops: readonly MachineHoop[];
  readonly hoop: string;
  readonly speed: number;
  readonly timeScale: number;
  readonly state: MachineState;
  /** The job under its needle. */
  readonly job: string | null;
  /** Jobs that wait for it, first come first. */
  readonly queue: readonly string[];
}

export interface MachineReport {
  /** Minutes the machine itself ran. */
  readonly minutes: number;
  readonly stops: number;
  readonly breaks: number;
  readonly trims: number;
  readonly threads: readonly {
    readonly code: string;
    readonly name: string;
    readonly hex: string;
    readonly stitches: number;
    readonly lengthM: number;
  }[];
  /** Whether it was ended before its last stitch. */
  readonly ended: boolean;
}

export interface MachineJob {
  readonly id: string;
  readonly name: string;
  readonly state: MachineState;
  /** Needle points made so far, and all there are. */
  readonly stitch: number;
  readonly stitches: number;
  /** Row of the stitch list it has reached. */
  readonly row: number;
  /** Thread that is sewn with, by its number; what comes next while it waits. */
  readonly thread: number;
  readonly waitsFor: 'thread' | 'stop' | 'mend' | null;
  readonly minutesLeft: number;
  readonly report: MachineReport | null;
}

const whole = (name: string, least: number, most: number) =>
  number()
    .strict(true)
    .required(`${name} is missing`)
    .integer(`${name} must be a whole number`)
    .min(least, `${name} must be at least ${least}, got \${value}`)
    .max(most, `${name} must be at most ${most}, got \${value}`);

export const machineSettingsSchema = object({
  needles: number().strict(true).required('needles is missing').oneOf([1, 6], 'needles must be 1 or 6, got ${value}'),
  hoop: string().strict(true).required('hoop is missing').max(40),
  speed: whole('speed', 200, 1200),
  timeScale: number()
    .strict(true)
    .required('timeScale is missing')
    .min(1, 'timeScale must be at least 1, got ${value}')
    .max(100_000, 'timeScale must be at most 100000, got ${value}'),
}).noUnknown('a machine has no "${unknown}"') as unknown as Schema<MachineSettings>;

export const machineActionSchema = object({
  action: string()
    .strict(true)
    .required('action is missing')
    .oneOf([...MACHINE_ACTIONS], 'there is no action "${value}"; known are ${values}'),
}).noUnknown('an action has no "${unknown}"') as unknown as Schema<{ action: MachineAction }>;

const state = () =>
  mixed<MachineState>()
    .required()
    .oneOf([...MACHINE_STATES]);

export const machineSchema = object({
  needles: array(object({ needle: number().required(), hex: string().nullable().defined() })).required(),
  hoops: array(object()).required(),
  hoop: string().defined(),
  speed: number().required(),
  timeScale: number().required(),
  state: state(),
  job: string().nullable().defined(),
  queue: array(string().required()).required(),
}) as unknown as Schema<Machine>;

export const machineJobSchema = object({
  id: string().required(),
  name: string().defined(),
  state: state(),
  stitch: number().required(),
  stitches: number().required(),
  row: number().required(),
  thread: number().required(),
  waitsFor: string().nullable().defined(),
  minutesLeft: number().required(),
  report: object().nullable().defined().default(undefined),
}) as unknown as Schema<MachineJob>;

export const jobCreatedSchema = object({ id: string().required() }) as unknown as Schema<{ id: string }>;
