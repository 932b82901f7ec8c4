CREATE TABLE `isbns` (
	`number` text PRIMARY KEY NOT NULL,
	`added_at` integer NOT NULL,
	`title` text DEFAULT '' NOT NULL,
	`edition` text DEFAULT '' NOT NULL
);
