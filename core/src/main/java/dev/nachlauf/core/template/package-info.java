/**
 * Texts with places for values, for systems without an interface. Start at {@link dev.nachlauf.core.template.TextTemplate};
 * {@link dev.nachlauf.core.template.Escape} says how a value is spelled so that it stays a value. A template may be grown
 * from a recorded text by saying which of its words are values. Values are filled in once and never looked at again, so
 * none can bring a place of its own. Knows nothing of jobs, rows and files.
 */
@NullMarked
package dev.nachlauf.core.template;

import org.jspecify.annotations.NullMarked;
