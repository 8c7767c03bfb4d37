/** The demo, made by code: Skua Point, an invented polar weather station. All names and data are made up. */
@NullMarked
package pantry.demo;

import org.jspecify.annotations.NullMarked;
