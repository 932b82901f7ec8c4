CREATE TABLE `imprint` (
	`id` integer PRIMARY KEY NOT NULL,
	`value` text NOT NULL,
	`changed_at` integer NOT NULL
);
