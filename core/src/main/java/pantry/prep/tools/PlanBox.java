package pantry.prep.tools;

import org.locationtech.jts.algorithm.MinimumAreaRectangle;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import pantry.model.Model;
import pantry.model.WorldPoints;

/**
 * The least rectangle around a thing as seen from above (H. Freeman, R. Shapira, Determining the minimum-area encasing
 * rectangle for an arbitrary closed curve, CACM 18, 1975; by JTS).
 *
 * @param area of the least rectangle, square metres
 * @param upright the area of the rectangle along the axes
 * @param turn about Y, degrees between -45 and 45, that brings its sides along the axes
 */
public record PlanBox(double area, double upright, double turn) {
    public static PlanBox of(Model model) {
        double[] points = WorldPoints.vertices(model);
        Coordinate[] plan = new Coordinate[points.length / 3];
        for (int i = 0; i < plan.length; i++) {
            plan[i] = new Coordinate(points[3 * i], points[3 * i + 2]);
        }
        Geometry hull = new GeometryFactory().createMultiPointFromCoords(plan).convexHull();
        double upright = hull.getEnvelope().getArea();
        Geometry least = MinimumAreaRectangle.getMinimumRectangle(hull);
        Coordinate[] corners = least.getCoordinates();
        if (corners.length < 5 || !(least.getArea() > 0)) {
            return new PlanBox(upright, upright, 0);
        }
        double angle = Math.toDegrees(
                Math.atan2(corners[1].getY() - corners[0].getY(), corners[1].getX() - corners[0].getX()));
        // A side that runs from x towards z is brought back by a turn about Y of the same angle.
        return new PlanBox(least.getArea(), upright, angle - 90 * Math.round(angle / 90));
    }
}
