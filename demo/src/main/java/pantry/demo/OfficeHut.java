package pantry.demo;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A hut as an architect's program writes it: an IFC file (2x3, ISO 16739) of two storeys with walls, slabs and columns, in
 * millimetres with Z up, whose surfaces have colours.
 */
final class OfficeHut {
    private final List<String> lines = new ArrayList<>();
    private final List<Integer> groundFloor = new ArrayList<>();
    private final List<Integer> roof = new ArrayList<>();
    private int number = 100;
    private int id;

    private OfficeHut() {}

    static String text() {
        OfficeHut hut = new OfficeHut();
        int wood = hut.style("Ochre panel", 0.83, 0.6, 0.23);
        int grey = hut.style("Concrete", 0.55, 0.56, 0.56);
        int steel = hut.style("Dark steel", 0.29, 0.31, 0.34);
        hut.add(hut.groundFloor, "IFCSLAB", "Floor", ",.FLOOR.", grey, 0, 0, -150, 5200, 3400, 150);
        hut.add(hut.groundFloor, "IFCWALLSTANDARDCASE", "North wall", "", wood, 0, 1500, 0, 5000, 120, 2400);
        hut.add(hut.groundFloor, "IFCWALLSTANDARDCASE", "West wall", "", wood, -2440, 0, 0, 120, 2880, 2400);
        hut.add(hut.groundFloor, "IFCWALLSTANDARDCASE", "East wall", "", wood, 2440, 0, 0, 120, 2880, 2400);
        // The south wall leaves room for a door.
        hut.add(hut.groundFloor, "IFCWALLSTANDARDCASE", "South wall, left", "", wood, -1500, -1500, 0, 2000, 120, 2400);
        hut.add(hut.groundFloor, "IFCWALLSTANDARDCASE", "South wall, right", "", wood, 1500, -1500, 0, 2000, 120, 2400);
        for (int i = 0; i < 4; i++) {
            hut.add(
                    hut.groundFloor,
                    "IFCCOLUMN",
                    "Leg " + (i + 1),
                    null,
                    steel,
                    (i % 2 * 2 - 1) * 2300,
                    (i / 2 * 2 - 1) * 1400,
                    -750,
                    160,
                    160,
                    600);
        }
        hut.add(hut.roof, "IFCSLAB", "Roof", ",.ROOF.", steel, 0, 0, 2400, 5600, 3800, 180);
        hut.add(hut.roof, "IFCCOLUMN", "Mast foot", null, steel, 2000, 1200, 2580, 120, 120, 900);
        hut.told(
                hut.groundFloor.subList(1, 6),
                "Pset_WallCommon",
                "'FireRating',$,IFCLABEL('F30')",
                "'IsExternal',$,IFCBOOLEAN(.T.)");
        hut.told(hut.roof.subList(0, 1), "Pset_SlabCommon", "'AcousticRating',$,IFCLABEL('38 dB')");
        return hut.file();
    }

    /** A set of properties that some parts have. */
    private void told(List<Integer> parts, String set, String... properties) {
        List<String> lines = new ArrayList<>();
        for (String property : properties) {
            lines.add("#" + line("IFCPROPERTYSINGLEVALUE(" + property + ",$)"));
        }
        int whole = line("IFCPROPERTYSET(" + guid() + ",#5,'" + set + "',$,(" + String.join(",", lines) + "))");
        List<String> named = parts.stream().map(part -> "#" + part).toList();
        line("IFCRELDEFINESBYPROPERTIES(" + guid() + ",#5,$,$,(" + String.join(",", named) + "),#" + whole + ")");
    }

    private int line(String entity) {
        int at = number++;
        lines.add("#" + at + "=" + entity + ";");
        return at;
    }

    /** An identifier of 22 characters, as IFC wants them. */
    private String guid() {
        return "'0SkuaPointHut0000000%02d'".formatted(id++);
    }

    private int style(String name, double red, double green, double blue) {
        int colour = line(String.format(Locale.ROOT, "IFCCOLOURRGB($,%.3f,%.3f,%.3f)", red, green, blue));
        int rendering = line("IFCSURFACESTYLERENDERING(#" + colour + ",0.,$,$,$,$,$,$,.NOTDEFINED.)");
        int surface = line("IFCSURFACESTYLE('" + name + "',.BOTH.,(#" + rendering + "))");
        return line("IFCPRESENTATIONSTYLEASSIGNMENT((#" + surface + "))");
    }

    /**
     * A block of the building, standing on the middle of its foot.
     *
     * @param further what the entity says after its tag; null for nothing
     * @param x with y and z the middle of its foot, millimetres
     */
    private void add(
            List<Integer> storey,
            String entity,
            String name,
            String further,
            int style,
            int x,
            int y,
            int z,
            int width,
            int depth,
            int height) {
        int point = line("IFCCARTESIANPOINT((%d.,%d.,%d.))".formatted(x, y, z));
        int axes = line("IFCAXIS2PLACEMENT3D(#" + point + ",#7,#8)");
        int place = line("IFCLOCALPLACEMENT(#18,#" + axes + ")");
        int profile = line("IFCRECTANGLEPROFILEDEF(.AREA.,$,#25,%d.,%d.)".formatted(width, depth));
        int solid = line("IFCEXTRUDEDAREASOLID(#" + profile + ",#9,#7," + height + ".)");
        line("IFCSTYLEDITEM(#" + solid + ",(#" + style + "),$)");
        int shape = line("IFCSHAPEREPRESENTATION(#10,'Body','SweptSolid',(#" + solid + "))");
        int whole = line("IFCPRODUCTDEFINITIONSHAPE($,$,(#" + shape + "))");
        storey.add(line(entity + "(" + guid() + ",#5,'" + name + "',$,$,#" + place + ",#" + whole + ",$"
                + (further == null ? "" : further) + ")"));
    }

    private void contained(List<Integer> parts, int storey) {
        List<String> named = parts.stream().map(part -> "#" + part).toList();
        line("IFCRELCONTAINEDINSPATIALSTRUCTURE(" + guid() + ",#5,$,$,(" + String.join(",", named) + "),#" + storey
                + ")");
    }

    private String file() {
        contained(groundFloor, 19);
        contained(roof, 29);
        return """
                ISO-10303-21;
                HEADER;
                FILE_DESCRIPTION(('ViewDefinition [CoordinationView]'),'2;1');
                FILE_NAME('office-hut.ifc','2026-02-11T09:00:00',('Workshop'),('Skua Point'),'','','');
                FILE_SCHEMA(('IFC2X3'));
                ENDSEC;
                DATA;
                #1=IFCORGANIZATION($,'Skua Point',$,$,$);
                #2=IFCAPPLICATION(#1,'1','By hand','hand');
                #3=IFCPERSON($,'Workshop',$,$,$,$,$,$);
                #4=IFCPERSONANDORGANIZATION(#3,#1,$);
                #5=IFCOWNERHISTORY(#4,#2,$,.ADDED.,$,$,$,0);
                #6=IFCCARTESIANPOINT((0.,0.,0.));
                #7=IFCDIRECTION((0.,0.,1.));
                #8=IFCDIRECTION((1.,0.,0.));
                #9=IFCAXIS2PLACEMENT3D(#6,#7,#8);
                #10=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-5,#9,$);
                #11=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
                #12=IFCUNITASSIGNMENT((#11));
                #13=IFCPROJECT(%s,#5,'Office hut',$,$,$,$,(#10),#12);
                #14=IFCLOCALPLACEMENT($,#9);
                #15=IFCSITE(%s,#5,'Ridge',$,$,#14,$,$,.ELEMENT.,$,$,$,$,$);
                #16=IFCLOCALPLACEMENT(#14,#9);
                #17=IFCBUILDING(%s,#5,'Office hut',$,$,#16,$,$,.ELEMENT.,$,$,$);
                #18=IFCLOCALPLACEMENT(#16,#9);
                #19=IFCBUILDINGSTOREY(%s,#5,'Ground floor',$,$,#18,$,$,.ELEMENT.,0.);
                #20=IFCRELAGGREGATES(%s,#5,$,$,#13,(#15));
                #21=IFCRELAGGREGATES(%s,#5,$,$,#15,(#17));
                #22=IFCRELAGGREGATES(%s,#5,$,$,#17,(#19,#29));
                #23=IFCCARTESIANPOINT((0.,0.));
                #24=IFCDIRECTION((1.,0.));
                #25=IFCAXIS2PLACEMENT2D(#23,#24);
                #29=IFCBUILDINGSTOREY(%s,#5,'Roof',$,$,#18,$,$,.ELEMENT.,2400.);
                """.formatted(guid(), guid(), guid(), guid(), guid(), guid(), guid(), guid())
                + String.join("\n", lines)
                + "\nENDSEC;\nEND-ISO-10303-21;\n";
    }
}
