CREATE TABLE `book_pages` (
	`name` text PRIMARY KEY NOT NULL,
	`title` text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `book_pages_title_unique` ON `book_pages` (`title`);--> statement-breakpoint
ALTER TABLE `accounts` ADD `sealed` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `deliveries` ADD `beside` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `told` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `found` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `wanted` integer DEFAULT false NOT NULL;