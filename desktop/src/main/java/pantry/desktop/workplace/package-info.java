/**
 * What the frame and the workplaces know of each other: a {@link pantry.desktop.workplace.Workplace} tells the frame what
 * it shows and can do, and asks other workplaces for something through
 * {@link pantry.desktop.workplace.Navigation}.
 */
@NullMarked
package pantry.desktop.workplace;

import org.jspecify.annotations.NullMarked;
