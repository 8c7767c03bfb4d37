package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.model.Axis;
import pantry.model.BuildingValues;
import pantry.model.CustomValue;
import pantry.model.Material;
import pantry.model.Model;
import pantry.testing.WithWorkshop;

/** A hut with a floor and two walls, one of them without a name, as architects' programs write it (IFC 2x3, ISO 10303-21). */
class IfcTest extends WithWorkshop {
    private static final String HUT = """
            ISO-10303-21;
            HEADER;
            FILE_DESCRIPTION((''),'2;1');
            FILE_NAME('hut.ifc','2026-03-01T00:00:00',('Workshop'),('Skua Point'),'','','');
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
            #13=IFCPROJECT('0aaaaaaaaaaaaaaaaaaa01',#5,'Hut',$,$,$,$,(#10),#12);
            #14=IFCLOCALPLACEMENT($,#9);
            #15=IFCSITE('0aaaaaaaaaaaaaaaaaaa02',#5,'Ridge',$,$,#14,$,$,.ELEMENT.,$,$,$,$,$);
            #16=IFCLOCALPLACEMENT(#14,#9);
            #17=IFCBUILDING('0aaaaaaaaaaaaaaaaaaa03',#5,'Relay hut',$,$,#16,$,$,.ELEMENT.,$,$,$);
            #18=IFCLOCALPLACEMENT(#16,#9);
            #19=IFCBUILDINGSTOREY('0aaaaaaaaaaaaaaaaaaa04',#5,'Ground floor',$,$,#18,$,$,.ELEMENT.,0.);
            #20=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaa05',#5,$,$,#13,(#15));
            #21=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaa06',#5,$,$,#15,(#17));
            #22=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaa07',#5,$,$,#17,(#19));
            #23=IFCCARTESIANPOINT((0.,0.));
            #24=IFCDIRECTION((1.,0.));
            #25=IFCAXIS2PLACEMENT2D(#23,#24);
            #26=IFCRECTANGLEPROFILEDEF(.AREA.,$,#25,4000.,200.);
            #27=IFCEXTRUDEDAREASOLID(#26,#9,#7,2400.);
            #28=IFCSHAPEREPRESENTATION(#10,'Body','SweptSolid',(#27));
            #29=IFCPRODUCTDEFINITIONSHAPE($,$,(#28));
            #30=IFCLOCALPLACEMENT(#18,#9);
            #31=IFCWALLSTANDARDCASE('0aaaaaaaaaaaaaaaaaaa08',#5,'North wall \\X2\\00E4\\X0\\, Bj\\X\\F6rn''s',$,$,#30,#29,$);
            #32=IFCCARTESIANPOINT((0.,3000.,0.));
            #33=IFCAXIS2PLACEMENT3D(#32,#7,#8);
            #34=IFCLOCALPLACEMENT(#18,#33);
            #35=IFCWALLSTANDARDCASE('0aaaaaaaaaaaaaaaaaaa09',#5,$,$,$,#34,#29,$);
            #36=IFCRECTANGLEPROFILEDEF(.AREA.,$,#25,4400.,3400.);
            #37=IFCEXTRUDEDAREASOLID(#36,#9,#7,100.);
            #38=IFCSHAPEREPRESENTATION(#10,'Body','SweptSolid',(#37));
            #39=IFCPRODUCTDEFINITIONSHAPE($,$,(#38));
            #40=IFCSLAB('0aaaaaaaaaaaaaaaaaaa0a',#5,'Floor',$,$,#30,#39,$,.FLOOR.);
            #41=IFCRELCONTAINEDINSPATIALSTRUCTURE('0aaaaaaaaaaaaaaaaaaa0b',#5,$,$,(#31,#35,#40),#19);
            ENDSEC;
            END-ISO-10303-21;
            """;

    private Imported read(String text) throws IOException {
        return workshop.readers().read(Files.writeString(folder.resolve("hut.ifc"), text), Progress.NONE);
    }

    private static void collect(List<Model.Node> nodes, String above, List<String> paths) {
        for (Model.Node node : nodes) {
            paths.add(above + node.name());
            collect(node.children(), above + node.name() + "/", paths);
        }
    }

    @Test
    void storeysAndTheirPartsComeInByTheirNames() throws IOException {
        Imported read = read(HUT);
        List<String> paths = new ArrayList<>();
        collect(read.model().roots(), "", paths);
        assertThat(paths)
                .containsExactlyInAnyOrder(
                        "Ridge",
                        "Ridge/Relay hut",
                        "Ridge/Relay hut/Ground floor",
                        "Ridge/Relay hut/Ground floor/North wall \u00e4, Bj\u00f6rn's",
                        "Ridge/Relay hut/Ground floor/Wall",
                        "Ridge/Relay hut/Ground floor/Floor");
        assertThat(read.model().extras().foreign()).isEmpty();
    }

    /** IfcPropertySet of ISO 16739, and what Assimp makes of it. */
    @Test
    void kindsIdentifiersAndPropertiesAreKeptWithTheirObjects() throws IOException {
        String told = HUT.replace("ENDSEC;\nEND-ISO", """
                #50=IFCPROPERTYSINGLEVALUE('FireRating',$,IFCLABEL('F30'),$);
                #51=IFCPROPERTYSINGLEVALUE('LoadBearing',$,IFCBOOLEAN(.T.),$);
                #52=IFCPROPERTYSET('0aaaaaaaaaaaaaaaaaaa0c',#5,'Pset_WallCommon',$,(#50,#51));
                #53=IFCRELDEFINESBYPROPERTIES('0aaaaaaaaaaaaaaaaaaa0d',#5,$,$,(#31),#52);
                ENDSEC;
                END-ISO""");
        List<CustomValue> values = read(told).model().extras().custom();
        String wall = "North wall \u00e4, Bj\u00f6rn's";
        assertThat(values)
                .contains(
                        new CustomValue(wall, "kind", "wall"),
                        new CustomValue(wall, "identifier", "0aaaaaaaaaaaaaaaaaaa08"),
                        new CustomValue("Ground floor", "kind", "building storey"),
                        new CustomValue("Wall", "identifier", "0aaaaaaaaaaaaaaaaaaa09"));
        assertThat(values).anySatisfy(value -> {
            assertThat(value.object()).isEqualTo(wall);
            assertThat(value.name()).contains("FireRating");
            assertThat(value.value()).isEqualTo("F30");
        });
        assertThat(BuildingValues.kinds(values)).containsExactly("wall", "slab");
        assertThat(BuildingValues.told(values))
                .containsExactly(Map.entry("storeys", "Ground floor"), Map.entry("parts", "1 slab, 2 walls"));
    }

    @Test
    void surfacesAreCalledAsTheFileCallsThem() throws IOException {
        String styled = HUT.replace("ENDSEC;\nEND-ISO", """
                #60=IFCCOLOURRGB($,0.8,0.6,0.2);
                #61=IFCSURFACESTYLERENDERING(#60,0.,$,$,$,$,$,$,.NOTDEFINED.);
                #62=IFCSURFACESTYLE('Ochre panel, \\X\\F6iled',.BOTH.,(#61));
                #63=IFCPRESENTATIONSTYLEASSIGNMENT((#62));
                #64=IFCSTYLEDITEM(#37,(#63),$);
                ENDSEC;
                END-ISO""");
        assertThat(read(styled).model().materials()).extracting(Material::name).contains("Ochre panel, \u00f6iled");
    }

    @Test
    void partsOfOneNameAreNumbered() throws IOException {
        List<String> paths = new ArrayList<>();
        collect(read(HUT.replaceFirst("'North wall[^$]*',", "\\$,")).model().roots(), "", paths);
        assertThat(paths).contains("Ridge/Relay hut/Ground floor/Wall", "Ridge/Relay hut/Ground floor/Wall 2");
    }

    @Test
    void aBuildingIsShelvedWithItsStoreysAndKinds() throws IOException {
        Path file = Files.writeString(folder.resolve("hut.ifc"), HUT);
        Imported arrival = workshop.intake().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "Buildings", Neighbours.NONE);
        assertThat(slip.tags()).containsExactly("wall", "slab");
        Asset hut = workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
        assertThat(hut.card().tags()).containsExactly("wall", "slab");
        assertThat(hut.card().fields())
                .containsEntry("storeys", "Ground floor")
                .containsEntry("parts", "1 slab, 2 walls");
        // And with what is said of each part, for whoever opens it.
        assertThat(workshop.readers()
                        .read(hut.entryLayer("v001"), Progress.NONE)
                        .model()
                        .extras()
                        .custom())
                .contains(new CustomValue("Wall", "identifier", "0aaaaaaaaaaaaaaaaaaa09"))
                .contains(new CustomValue("Floor", "kind", "slab"));
    }

    @Test
    void millimetresBecomeMetresAndItStandsUpright() throws IOException {
        Imported read = read(HUT);
        assertThat(read.unit()).contains(1.0);
        assertThat(read.up()).contains(Axis.Y);
        assertThat(read.model().bounds().size().x()).isCloseTo(4.4, within(1e-4));
        assertThat(read.model().bounds().size().y()).isCloseTo(2.4, within(1e-4));
        assertThat(read.facts().triangles()).isEqualTo(36);
    }

    @Test
    void aBuildingWithoutSurfacesIsRefused() {
        String bare = HUT.replaceAll("(?m)^#(31|35|40|41)=.*\\n", "");
        assertThatThrownBy(() -> read(bare)).hasMessageContaining("surface");
        assertThatThrownBy(() -> read("ISO-10303-21;\nHEADER;\nnothing")).isInstanceOf(RuntimeException.class);
    }
}
