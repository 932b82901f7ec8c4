CREATE TABLE `versions` (
	`id` text PRIMARY KEY NOT NULL,
	`title` text NOT NULL,
	`name` text NOT NULL,
	`revision` integer NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `versions_title` ON `versions` (`title`,`at`);