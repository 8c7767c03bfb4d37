package pantry.exchange.worker;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.model.CustomValue;
import pantry.testing.WithWorkshop;

class FbxUserPropertiesTest extends WithWorkshop {
    /** A triangle with properties of people's own, among those that every object has. */
    private static final String BUOY = """
            ; FBX 7.4.0 project file
            FBXHeaderExtension:  {
                FBXHeaderVersion: 1003
                FBXVersion: 7400
            }
            GlobalSettings:  {
                Version: 1000
                Properties70:  {
                    P: "UpAxis", "int", "Integer", "",1
                    P: "UnitScaleFactor", "double", "Number", "",100
                }
            }
            Objects:  {
                Geometry: 10, "Geometry::Buoy", "Mesh" {
                    Vertices: *9 {
                        a: 0,0,0,1,0,0,0,1,0
                    }
                    PolygonVertexIndex: *3 {
                        a: 0,1,-3
                    }
                    GeometryVersion: 124
                }
                Model: 20, "Model::Buoy", "Mesh" {
                    Version: 232
                    Properties70:  {
                        P: "DefaultAttributeIndex", "int", "Integer", "",0
                        P: "InheritType", "enum", "", "",1
                        P: "mooring", "KString", "", "U", "chain, 12 m"
                        P: "serial", "int", "Integer", "AU",4711
                        P: "draught", "double", "Number", "A+U",1.25
                    }
                    Shading: T
                    Culling: "CullingOff"
                }
            }
            Connections:  {
                C: "OO",20,0
                C: "OO",10,20
            }
            """;

    @Test
    void whatPeopleSaidOfAnObjectIsKeptAndNotWhatEveryObjectHas() throws IOException {
        Path file = Files.writeString(folder.resolve("buoy.fbx"), BUOY);
        assertThat(FbxUserProperties.names(file)).containsExactlyInAnyOrder("mooring", "serial", "draught");
        List<CustomValue> values =
                workshop.readers().read(file, Progress.NONE).model().extras().custom();
        assertThat(values)
                .containsExactlyInAnyOrder(
                        new CustomValue("Buoy", "mooring", "chain, 12 m"),
                        new CustomValue("Buoy", "serial", 4711.0),
                        new CustomValue("Buoy", "draught", 1.25));
    }

    @Test
    void binaryFilesMarkThemAlike() throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        bytes.write(new byte[20]);
        bytes.write(new byte[] {0, 0x1A, 0});
        bytes.write(new byte[] {(byte) 0xE8, 0x1C, 0, 0});
        property(bytes, "InheritType", "enum", "", "");
        property(bytes, "mooring", "KString", "", "U");
        // Cut off in the middle.
        bytes.write(new byte[] {1, 'P', 'S', 100, 0, 0, 0, 'x'});
        Path file = Files.write(folder.resolve("some.FBX"), bytes.toByteArray());
        assertThat(FbxUserProperties.names(file)).containsExactly("mooring");
    }

    private static void property(ByteArrayOutputStream to, String... texts) throws IOException {
        to.write(new byte[] {1, 'P'});
        for (String text : texts) {
            byte[] told = text.getBytes(StandardCharsets.UTF_8);
            to.write('S');
            to.write(ByteBuffer.allocate(4)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putInt(told.length)
                    .array());
            to.write(told);
        }
    }

    @Test
    void filesOfOtherFormatsAndEmptyOnesHaveNone() throws IOException {
        assertThat(FbxUserProperties.names(Files.writeString(folder.resolve("a.obj"), BUOY)))
                .isEmpty();
        assertThat(FbxUserProperties.names(Files.writeString(folder.resolve("a.fbx"), "")))
                .isEmpty();
    }

    /** Who made a COLLADA file, and whose it is, stands in its asset element (COLLADA 1.4.1, chapter 5). */
    @Test
    void whatAFileSaysOfTheWholeIsKept() throws IOException {
        Path file = Files.writeString(folder.resolve("plate.dae"), """
                <?xml version="1.0" encoding="utf-8"?>
                <COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
                  <asset>
                    <contributor><author>Workshop</author><copyright>Skua Point, CC0</copyright></contributor>
                    <created>2026-02-11T09:00:00</created><modified>2026-02-11T09:00:00</modified>
                    <unit name="meter" meter="1"/><up_axis>Y_UP</up_axis>
                  </asset>
                  <library_geometries><geometry id="g" name="Plate"><mesh>
                    <source id="p"><float_array id="a" count="9">0 0 0 1 0 0 0 1 0</float_array>
                      <technique_common><accessor source="#a" count="3" stride="3">
                        <param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/>
                      </accessor></technique_common></source>
                    <vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
                    <triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>
                  </mesh></geometry></library_geometries>
                  <library_visual_scenes><visual_scene id="s">
                    <node id="n" name="Plate"><instance_geometry url="#g"/></node>
                  </visual_scene></library_visual_scenes>
                  <scene><instance_visual_scene url="#s"/></scene>
                </COLLADA>
                """);
        assertThat(workshop.readers().read(file, Progress.NONE).model().extras().custom())
                .contains(
                        new CustomValue("", "Author", "Workshop"), new CustomValue("", "Copyright", "Skua Point, CC0"));
    }
}
