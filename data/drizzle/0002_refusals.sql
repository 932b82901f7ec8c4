CREATE TABLE `refusals` (
	`title` text NOT NULL,
	`key` text NOT NULL,
	PRIMARY KEY(`title`, `key`)
);
