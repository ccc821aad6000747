// Made by scripts/font-widths.mjs from the bundled fonts: do not change by hand.
/** The characters that have widths here, as first code point and number of those that follow one another. */
export const WIDTH_RANGES = [
  [32, 95],
  [160, 96],
  [8211, 2],
  [8216, 2],
  [8220, 2],
  [8226, 1],
  [8230, 1],
  [8364, 1],
] as const;
/**
 * Advance widths in halves of a thousandth of the font size, in the order of WIDTH_RANGES: of each character the one at
 * weight 400, and 52 more than what it gains up to weight 700. Each is two digits of base 52, the lower first, from ( on.
 */
export const WIDTHS = {
  serif:
    'H0A(U3W)W4V+Y@X)M>)*<D9,FDC**.G*65=*65=*[?[(<=;)M13+[7E(91/+W:=)Y@++59E*T>S*N<(+V>G+N=M*P>++@;K*:>Q+X>Z*D1(+Z1++M;=)<=;)M;=)*;U+(JI+<CU*+B?+PBI)+F;*T@/*V>=*.EK)TGT*J6)++:7,1EK+I?7*DJ1+UES(DF4)EAF+DF5)@CY+K>A*YAQ*FDF)ZB=*KO3+QCO)2BM)@@H)D4E*W:=)M4M*B:R(7:/*R0H*S<A*O>?*D;3*5?;**<Y),65+@=A*V?G*F35*F35*U>K*L32*)LQ*V?G*>>[)9?>*P>?*:9-+[9G*[5Y*9?K*/=R)0GY*;<O*7=7*5:;*X6)*/2G*X6)*A@-)H0A(F3G)>;.*7@X).>I);BE)05()0>+*U5[+-L))V;K)8=Y+<=9)((()ADA(>51+27))==<)X5Y)*5O)I0>*A?I*Y?1,B2=*-2E*83S)L<[(8=Y+BE;*VEN*:FS*.:M+<CU*<CU*<CU*<CU*<CU*<CU*>MM*PBI)T@/*T@/*T@/*T@/*J6)+J6)+J6)+J6)+*F;*UES(DF4)DF4)DF4)DF4)DF4)5;<*DF4)FDF)FDF)FDF)FDF)2BM)KAK+5A,,S<A*S<A*S<A*S<A*S<A*S<A*LGQ)D;3**<Y)*<Y)*<Y)*<Y)E3-*E3-*E3-*E3-*A>**V?G*>>[)>>[)>>[)>>[)>>[)<=;)6>S)9?K*9?K*9?K*9?K*7=7*[>,*7=7*R;?*@GU*.0[**0)+U70-F8K,(63,DH).IB1*',
  sans: ':19(J12*;8,+2?B)9AT)PJ:*5CV+D1B)I31*V3+*07*,9=8*71;*C6G)J0M*A51*D?5*J7R)X>B*4@:*1@+*I@9*Y?@*-?[)W@W))@9*K0L*41A*[<4*9=8*[<4**<C)ZGU(8CI)QAD)AB/*KB)*U?D)T>O)2D(*@E0)V2Y)Y6C)4B:*3>()+J4*(E,*4D)*A@H)OD[))BO)PAT)S>U)YBW)UA2*KLF)@B.*:?9+B@5*J38*A51*J38*2:>)W;;*=0O*6=C)Y>@)W</)Y>@)Q=<)47))Y?4)1>H)C1O)-2(*G=L)J3(*6I1*2>H)O=<)W>?)W>?)*7R)@;R)Z6+*9>E)=;H)(F9)M=W)F<,*A:H)G42+.23)P4(+T=L*:19(K12*U<M)F?:*O<A*C?S*.23)U:T);37,>GC)N7W(A9N*9=8*((()N<C)H4B+R9>)9=8*.6Z)?7W)=0O*C>M)B=D*S0/*V0H*31J)H7V(=:5*?FC*9I:*9KF*X;[)8CI)8CI)8CI)8CI)8CI)8CI)AMC+AB/*U?D)U?D)U?D)U?D)V2Y)V2Y)V2Y)V2Y)2CH*(E,*4D)*4D)*4D)*4D)*4D)*P<=*UD[)YBW)YBW)YBW)YBW):?9+)A0*K>?*6=C)6=C)6=C)6=C)6=C)6=C)0K[(W</)Q=<)Q=<)Q=<)Q=<)81U)81U)81U)G31,O=<)2>H)O=<)O=<)O=<)O=<)O=<)9=8*D>[)9>E)9>E)9>E)9>E)F<,*K>E)F<,*:=?*ZR3*31W)W00*.89+Q7G+14=*CEV-+?(+',
  mono: ',?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?()(((),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?(),?()',
} as const;
