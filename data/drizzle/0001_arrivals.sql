CREATE TABLE `arrivals` (
	`title` text PRIMARY KEY NOT NULL,
	`arrival` text NOT NULL,
	`accepted_at` integer
);
