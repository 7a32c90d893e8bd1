<script lang="ts">
	import DocumentForm from '../ui/DocumentForm.svelte';
	import { fieldOf, type Node } from '../ui/form';
	import type { AxleName } from '../api/client';
	import type { Axle, Vehicle } from './axlesBench.svelte';

	let {
		vehicle,
		axle,
		end,
		form,
		steers = true,
		onaxle,
		onvehicle
	}: {
		vehicle: Vehicle;
		axle: Axle;
		end: AxleName;
		/** Of a vehicle. */
		form: Node;
		/** Whether what steers it is told here too: it is part of the linkage, which a job keeps as it came. */
		steers?: boolean;
		onaxle: (axle: Axle) => void;
		onvehicle: (fields: Partial<Vehicle>) => void;
	} = $props();

	const ofAxle = [
		'targets',
		'adjusters',
		'fasteners',
		'joint_limits_deg',
		'strut_top',
		'half_shaft',
		'anti_roll_link',
		'lines',
		'full_lock',
		'tyre_gaps',
		'tyre_width_mm',
		'seats',
		'u_bolts',
		'prop_shaft',
		'own_steps',
		'notes',
		'orientation'
	] as const;
	/** What steers the wheels, where this kind of suspension can have it. */
	const steering = $derived.by(() => {
		const union = fieldOf(form, end, 'linkage')?.node;
		return union?.kind === 'union' ? fieldOf(union.options[axle.linkage.kind], 'steering') : undefined;
	});
	function putSteering(to: unknown) {
		const prior = axle.prior && { ...axle.prior, steering: to };
		onaxle({ ...axle, linkage: { ...axle.linkage, steering: to }, prior } as Axle);
	}
	// A name, a plate and a wheelbase are the vehicle's own, and none of its figures.
	const vehicleHides = $derived([
		'front',
		'rear',
		'outline',
		...(steers ? [] : ['name', 'description', 'plate', 'wheelbase_mm'])
	]);
</script>

<p class="text-quiet mb-2">
	What its maker or the shop says of it. Nothing here is looked up: type it in with its source.
</p>
{#each ofAxle as name (name)}
	{@const f = fieldOf(form, end, name)}
	{#if f}
		<div class="border-rule mb-3 border-b pb-3" title={f.help}>
			<h3 class="head mb-1">{f.title}</h3>
			{#if f.optional && !axle[name]}
				<button
					class="btn min-h-7 px-2 text-[13px]"
					onclick={() => onaxle({ ...axle, [name]: f.node.start } as Axle)}>Set it</button
				>
			{:else}
				<DocumentForm
					node={f.node}
					value={axle[name]}
					label={f.title}
					onvalue={(to) => onaxle({ ...axle, [name]: to } as Axle)}
				/>
			{/if}
		</div>
	{/if}
{/each}
{#if steering && steers}
	<div class="border-rule mb-3 border-b pb-3">
		<h3 class="head mb-1">Steering</h3>
		{#if (axle.linkage as { steering?: unknown }).steering}
			<DocumentForm
				node={steering.node}
				value={(axle.linkage as { steering?: unknown }).steering}
				label="Steering"
				onvalue={putSteering}
			/>
		{:else}
			<button class="btn min-h-7 px-2 text-[13px]" onclick={() => putSteering(steering.node.start)}
				>It is steered</button
			>
		{/if}
	</div>
{/if}
<h3 class="head mb-1">Vehicle</h3>
<DocumentForm
	node={form}
	value={vehicle}
	label="Vehicle"
	hide={vehicleHides}
	onvalue={(to) => onvehicle(to as Partial<Vehicle>)}
/>
