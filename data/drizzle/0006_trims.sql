CREATE TABLE `trims` (
	`name` text PRIMARY KEY NOT NULL,
	`size` text NOT NULL
);
