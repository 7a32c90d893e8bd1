<script lang="ts">
	/** Whether an aim is met, large enough for whoever stands under the vehicle; the words beside it say so too. */
	let { met }: { met: boolean | null } = $props();
</script>

<span
	class="ml-auto self-center text-[32px] leading-9 font-bold max-[1150px]:text-[26px] {met
		? 'text-good'
		: 'text-fix'}"
	aria-hidden="true">{met ? '✓' : '✗'}</span
>
