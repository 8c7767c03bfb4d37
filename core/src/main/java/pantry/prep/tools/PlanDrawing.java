package pantry.prep.tools;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.math.Box3;
import pantry.workpiece.PrepException;

/**
 * Writes plan symbols as drawings in millimetres at a scale: SVG 1.1 of the W3C, and DXF as the ASCII files of
 * release 12, which every drawing program reads (common practice).
 *
 * @param scale millimetres on paper stand for so many in the world: 50 for 1:50
 */
public record PlanDrawing(PlanSymbol plan, double scale) {
    private static final double MARGIN = 2;

    public PlanDrawing {
        if (!(scale > 0) || Double.isInfinite(scale)) {
            throw new PrepException("a drawing's scale is a number above 0, such as 50 for 1:50, not " + scale);
        }
    }

    /**
     * Writes it to a file of the format that the ending tells.
     *
     * @throws PrepException where the ending is neither {@code .svg} nor {@code .dxf}, or the file cannot be written
     */
    public void write(Path file) {
        String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
        String text;
        if (name.endsWith(".svg")) {
            text = svg();
        } else if (name.endsWith(".dxf")) {
            text = dxf();
        } else {
            throw new PrepException(file, "is neither .svg nor .dxf; plan symbols are written as these");
        }
        try {
            AtomicFiles.write(file, text);
        } catch (IOException e) {
            throw new PrepException(file, null, "cannot be written: " + IoProblems.describe(e), e);
        }
    }

    /** Millimetres on paper. */
    private double paper(double metres) {
        return metres * 1000 / scale;
    }

    private static String number(double millimetres) {
        String text = String.format(Locale.ROOT, "%.4f", millimetres);
        return text.contains(".") ? text.replaceAll("0+$", "").replaceAll("\\.$", "") : text;
    }

    /** The drawing as SVG; x grows to the right, z downwards. */
    public String svg() {
        Box3 box = plan.bounds();
        double width = paper(box.size().x());
        double depth = paper(box.size().z());
        String size = number(width + 2 * MARGIN) + "mm\" height=\"" + number(depth + 2 * MARGIN) + "mm\"";
        String view = number(paper(box.min().x()) - MARGIN) + " "
                + number(paper(box.min().z()) - MARGIN) + " " + number(width + 2 * MARGIN) + " "
                + number(depth + 2 * MARGIN);
        StringBuilder svg = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        svg.append("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"").append(size);
        svg.append(" viewBox=\"").append(view).append("\">\n");
        svg.append("  <title>Plan at 1:").append(number(scale)).append("</title>\n");
        svg.append("  <path id=\"outline\" fill=\"#fffdf8\" fill-rule=\"evenodd\" stroke=\"#22262b\"");
        svg.append(" stroke-width=\"0.35\" stroke-linejoin=\"round\" d=\"");
        plan.rings().forEach(ring -> path(svg, ring, true));
        svg.append("\"/>\n");
        if (!plan.edges().isEmpty()) {
            svg.append("  <path id=\"edges\" fill=\"none\" stroke=\"#626872\" stroke-width=\"0.18\" d=\"");
            plan.edges().forEach(line -> path(svg, line, line.isClosed()));
            svg.append("\"/>\n");
        }
        return svg.append("</svg>\n").toString();
    }

    private void path(StringBuilder svg, PlanSymbol.Line line, boolean closed) {
        List<PlanSymbol.Point> points = line.points();
        for (int i = 0; i < points.size() - (closed ? 1 : 0); i++) {
            svg.append(i == 0 ? "M" : "L");
            svg.append(number(paper(points.get(i).x())))
                    .append(' ')
                    .append(number(paper(points.get(i).z())));
        }
        svg.append(closed ? "Z" : "");
    }

    /** The drawing as DXF; y grows away from the viewer, so it is the world's z turned round. */
    public String dxf() {
        Box3 box = plan.bounds();
        StringBuilder dxf = new StringBuilder();
        pair(dxf, 0, "SECTION");
        pair(dxf, 2, "HEADER");
        pair(dxf, 9, "$ACADVER");
        pair(dxf, 1, "AC1009");
        pair(dxf, 9, "$EXTMIN");
        point(dxf, box.min().x(), box.max().z());
        pair(dxf, 9, "$EXTMAX");
        point(dxf, box.max().x(), box.min().z());
        pair(dxf, 0, "ENDSEC");
        pair(dxf, 0, "SECTION");
        pair(dxf, 2, "TABLES");
        pair(dxf, 0, "TABLE");
        pair(dxf, 2, "LAYER");
        pair(dxf, 70, "2");
        for (String layer : List.of("OUTLINE", "EDGES")) {
            pair(dxf, 0, "LAYER");
            pair(dxf, 2, layer);
            pair(dxf, 70, "0");
            pair(dxf, 62, "7");
            pair(dxf, 6, "CONTINUOUS");
        }
        pair(dxf, 0, "ENDTAB");
        pair(dxf, 0, "ENDSEC");
        pair(dxf, 0, "SECTION");
        pair(dxf, 2, "ENTITIES");
        plan.rings().forEach(ring -> polyline(dxf, ring, "OUTLINE"));
        plan.edges().forEach(line -> polyline(dxf, line, "EDGES"));
        pair(dxf, 0, "ENDSEC");
        pair(dxf, 0, "EOF");
        return dxf.toString();
    }

    private void polyline(StringBuilder dxf, PlanSymbol.Line line, String layer) {
        pair(dxf, 0, "POLYLINE");
        pair(dxf, 8, layer);
        pair(dxf, 66, "1");
        pair(dxf, 70, line.isClosed() ? "1" : "0");
        List<PlanSymbol.Point> points = line.points();
        for (int i = 0; i < points.size() - (line.isClosed() ? 1 : 0); i++) {
            pair(dxf, 0, "VERTEX");
            pair(dxf, 8, layer);
            point(dxf, points.get(i).x(), points.get(i).z());
        }
        pair(dxf, 0, "SEQEND");
        pair(dxf, 8, layer);
    }

    private void point(StringBuilder dxf, double x, double z) {
        pair(dxf, 10, number(paper(x)));
        pair(dxf, 20, number(paper(-z)));
        pair(dxf, 30, "0");
    }

    private static void pair(StringBuilder dxf, int code, String value) {
        dxf.append(code).append('\n').append(value).append('\n');
    }
}
