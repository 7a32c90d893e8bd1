import type { AxleName, Job, Prediction } from '../api/client';
import type { Wing } from '../wings';
import { AxlesBench } from './axlesBench.svelte';
import CarAlign from './CarAlign.svelte';
import { CarBench } from './carBench.svelte';
import CarBrief from './CarBrief.svelte';
import CarDrawing from './CarDrawing.svelte';
import CarFigures from './CarFigures.svelte';
import CarInstruments from './CarInstruments.svelte';
import CarMeasure from './CarMeasure.svelte';
import CarNumbers from './CarNumbers.svelte';
import CarOnBench from './CarOnBench.svelte';
import CarProof from './CarProof.svelte';

/** Four wheels. */
export const CAR: Wing = {
	called: {},
	job: CarBench,
	Drawing: CarDrawing,
	Numbers: CarNumbers,
	Instruments: CarInstruments,
	rows: 'grid-rows-[minmax(0,1.3fr)_auto_minmax(0,1fr)]',
	Brief: CarBrief,
	Measure: CarMeasure,
	Figures: CarFigures,
	Align: CarAlign,
	place: 'behind',
	Proof: CarProof,
	within: 'As predicted, on both sides',
	proving:
		'Bounce, roll a length, let it settle; same load, same reference. Under each field: what it should read.',
	begin: 'drag an axle on the drawing to the height wanted',
	aim: (_: Job, axle: AxleName, p: Prediction | undefined) => p?.[axle].aim ?? p?.[axle].rise ?? 0,
	rise: (prediction: Prediction, axle: AxleName) => prediction[axle].rise,
	prints: [{ name: 'alignment sheet', file: 'alignment.pdf' }],
	vehicle: AxlesBench,
	OnBench: CarOnBench
};
