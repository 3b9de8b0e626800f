/** A file in metres around shapes; `#9` is the context, `#3` the placement. */
export const wrapIfc = (data: string, schema = 'IFC4') => `ISO-10303-21;
HEADER;
FILE_SCHEMA(('${schema}'));
ENDSEC;
DATA;
#1=IFCCARTESIANPOINT((0.,0.,0.));
#2=IFCAXIS2PLACEMENT3D(#1,$,$);
#3=IFCLOCALPLACEMENT($,#2);
#7=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
#8=IFCUNITASSIGNMENT((#7));
#9=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,$,#2,$);
#10=IFCPROJECT('p',$,'P',$,$,$,$,(#9),#8);
#11=IFCDIRECTION((0.,0.,1.));
${data}
ENDSEC;
END-ISO-10303-21;`;
