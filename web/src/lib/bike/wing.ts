import type { AxleName } from '../api/client';
import type { Wing } from '../wings';
import { BikeBench, type BikeJob, type BikePrediction } from './bikeBench.svelte';
import BikeBrief from './BikeBrief.svelte';
import BikeDrawing from './BikeDrawing.svelte';
import BikeInstruments from './BikeInstruments.svelte';
import BikeMeasure from './BikeMeasure.svelte';
import BikeNumbers from './BikeNumbers.svelte';
import BikeOnBench from './BikeOnBench.svelte';
import BikeProof from './BikeProof.svelte';
import BikeSteer from './BikeSteer.svelte';
import SagBench from './SagBench.svelte';
import { WholeBench } from './wholeBench.svelte';

/** Two wheels. */
export const BIKE: Wing = {
	called: { align: 'Steer' },
	job: BikeBench,
	Drawing: BikeDrawing,
	Numbers: BikeNumbers,
	Instruments: BikeInstruments,
	rows: 'grid-rows-[minmax(0,1.45fr)_auto_minmax(0,1fr)]',
	Brief: BikeBrief,
	Measure: BikeMeasure,
	Figures: SagBench,
	place: 'side',
	Align: BikeSteer,
	Proof: BikeProof,
	within: 'As predicted',
	proving: 'Same marks, same rider, same kit. Bounce at both ends first; ride a length and measure again.',
	begin: 'drag a sag bar to where it should be',
	// Where no height is wanted of an end, it is wanted where it is.
	aim: (_: BikeJob, axle: AxleName, p: BikePrediction | undefined) =>
		-((axle === 'rear' ? p?.aim_mm : p?.front_aim_mm) ?? 0),
	rise: (p: BikePrediction, axle: AxleName) => -(axle === 'rear' ? p.rear_drop_mm : p.front_drop_mm),
	prints: [],
	vehicle: WholeBench,
	OnBench: BikeOnBench
};
