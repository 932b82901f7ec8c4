CREATE TABLE `designs` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`choice` text NOT NULL,
	`kept_at` integer NOT NULL
);
