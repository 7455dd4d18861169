/**
 * Examples inside a job: a row that is given, and what must become of it. {@link
 * dev.nachlauf.core.example.ExampleCheck} runs each through the steps and maps of the job, with the lookups and
 * translations that the example gives, and says where what was found is not what was expected. No system is asked.
 */
@NullMarked
package dev.nachlauf.core.example;

import org.jspecify.annotations.NullMarked;
