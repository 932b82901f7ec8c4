CREATE TABLE `changes` (
	`title` text NOT NULL,
	`revision` integer NOT NULL,
	`client` text NOT NULL,
	`change` text NOT NULL,
	`inverse` text NOT NULL,
	`label` text NOT NULL,
	`at` integer NOT NULL,
	`undoes` integer,
	`undone` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`title`, `revision`)
);
--> statement-breakpoint
CREATE TABLE `files` (
	`sha256` text PRIMARY KEY NOT NULL,
	`size` integer NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`title` text,
	`payload` text NOT NULL,
	`state` text NOT NULL,
	`attempts` integer DEFAULT 0 NOT NULL,
	`lease_until` integer DEFAULT 0 NOT NULL,
	`worker` text DEFAULT '' NOT NULL,
	`stage` text DEFAULT '' NOT NULL,
	`share` integer DEFAULT 0 NOT NULL,
	`stop` integer DEFAULT 0 NOT NULL,
	`result` text,
	`error` text,
	`created_at` integer NOT NULL,
	`changed_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `jobs_state` ON `jobs` (`state`,`created_at`);--> statement-breakpoint
CREATE INDEX `jobs_title` ON `jobs` (`title`);--> statement-breakpoint
CREATE TABLE `listing_events` (
	`id` text PRIMARY KEY NOT NULL,
	`listing` text NOT NULL,
	`at` integer NOT NULL,
	`state` text NOT NULL,
	`words` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `events_listing` ON `listing_events` (`listing`,`at`);--> statement-breakpoint
CREATE TABLE `listings` (
	`id` text PRIMARY KEY NOT NULL,
	`title` text NOT NULL,
	`outlet` text NOT NULL,
	`edition` text NOT NULL,
	`product` text NOT NULL,
	`state` text NOT NULL,
	`reference` text DEFAULT '' NOT NULL,
	`link` text DEFAULT '' NOT NULL,
	`changed_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `products` (
	`id` text PRIMARY KEY NOT NULL,
	`title` text NOT NULL,
	`edition` text NOT NULL,
	`name` text NOT NULL,
	`sha256` text NOT NULL,
	`size` integer NOT NULL,
	`revision` integer NOT NULL,
	`pages` integer DEFAULT 0 NOT NULL,
	`findings` text NOT NULL,
	`made_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `products_title` ON `products` (`title`,`made_at`);--> statement-breakpoint
CREATE TABLE `sections` (
	`title` text NOT NULL,
	`id` text NOT NULL,
	`content` text NOT NULL,
	PRIMARY KEY(`title`, `id`)
);
--> statement-breakpoint
CREATE TABLE `titles` (
	`id` text PRIMARY KEY NOT NULL,
	`meta` text NOT NULL,
	`revision` integer DEFAULT 0 NOT NULL,
	`words` integer DEFAULT 0 NOT NULL,
	`created_at` integer NOT NULL,
	`changed_at` integer NOT NULL,
	`deleted_at` integer
);
