/**
 * Documents that jobs share: crosswalks and pieces. Every save is a version, and versions never change, so that a run can
 * be carried on with what it was started with. {@link dev.nachlauf.service.shared.Crosswalks} and {@link
 * dev.nachlauf.service.shared.Pieces} are the facades. What is wrong with a document is the core's to say.
 */
@NullMarked
package dev.nachlauf.service.shared;

import org.jspecify.annotations.NullMarked;
