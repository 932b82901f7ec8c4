CREATE TABLE `accounts` (
	`outlet` text PRIMARY KEY NOT NULL,
	`affiliate` text DEFAULT '' NOT NULL,
	`changed_at` integer NOT NULL
);
