CREATE TABLE `kept_editions` (
	`name` text PRIMARY KEY NOT NULL,
	`choices` text NOT NULL
);
