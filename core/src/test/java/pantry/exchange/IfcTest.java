package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.model.Axis;
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
        assertThat(read.model().extras().foreign())
                .containsExactly("properties and identifiers of 1 slab, 2 walls on the storeys Ground floor");
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
