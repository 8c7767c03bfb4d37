/** Taking files in: arrivals, the slips with the choices made for them, and shelving. */
@NullMarked
package pantry.intake;

import org.jspecify.annotations.NullMarked;
