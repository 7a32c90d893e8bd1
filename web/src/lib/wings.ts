import type { Component } from 'svelte';
import type { AxleName, Schemas, StageName } from './api/client';
import type { AnyBench } from './bench/jobBench.svelte';
import type { OnBench } from './bench/saved.svelte';
import { BIKE } from './bike/wing';
import { CAR } from './car/wing';

// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Any = any;
export type Proof = Schemas['Proof'] | Schemas['BikeProof'];

/** What the screens of one kind of machine bring; everything else is the same for all. */
export type Wing = {
	/** What a stage is called where it is not called as everywhere. */
	called: Partial<Record<StageName, string>>;
	/** A job on its bench. */
	job: new (view: Schemas['JobView']) => AnyBench;
	/** What stays on the screen in every stage; each reads the bench. */
	Drawing: Component;
	Numbers: Component;
	Instruments: Component;
	/** Heights of drawing, numbers and findings. */
	rows: string;
	/** Stages, as far as they differ. */
	Brief: Component;
	Measure: Component;
	/** Below the stack of changes. */
	Figures: Component;
	Align: Component;
	/** Where a step of the card is done, drawn; of a machine whose steps have places. */
	/** From where the joint of a step is looked at. */
	place: Schemas['Seen']['view'];
	/** Readings after, held against the prediction. */
	Proof: Component<{ proof: Any }>;
	/** What is said where everything came out. */
	within: string;
	/** How readings after are taken. */
	proving: string;
	/** How an empty plan is begun, beside adding a change. */
	begin: string;
	/** Rise of an end that the brief wants, mm; where it wants none, no rise. */
	aim: (job: Any, axle: AxleName, prediction: Any) => number;
	/** Rise of an end that is predicted, mm. */
	rise: (prediction: Any, axle: AxleName) => number;
	/** Printouts beside the card: what it is called, and its name in the address. */
	prints: { name: string; file: string }[];
	/** A vehicle on its bench. */
	vehicle: new (id: number, view: Schemas['VehicleView']) => OnBench<Any>;
	OnBench: Component<{ bench: Any }>;
};

/** By the name of the kind. */
const WINGS: Record<string, Wing> = { car: CAR, bike: BIKE };
export const wingOf = (kind: string): Wing => WINGS[kind] ?? CAR;
