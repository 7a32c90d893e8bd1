<!-- What rubber and air are filled with, once in every drawing. -->
<defs>
	<pattern id="rubber" width="5" height="5" patternUnits="userSpaceOnUse">
		<rect width="5" height="5" fill="var(--raised)" />
		<circle cx="1.4" cy="1.4" r="1.1" fill="var(--ink)" />
		<circle cx="3.9" cy="3.9" r="1.1" fill="var(--ink)" />
	</pattern>
	<pattern id="air" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
		<rect width="7" height="7" fill="var(--raised)" />
		<path d="M0 3.5h7" stroke="var(--quiet)" />
	</pattern>
</defs>
